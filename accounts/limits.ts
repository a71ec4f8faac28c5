import { isIPv6 } from "node:net";
import { RateLimiterMemory } from "rate-limiter-flexible";

/** A quarter of an hour and an hour, s. */
const [QUARTER_S, HOUR_S] = [900, 3600];
/** Wrong passwords of one login from one address. */
const byPair = new RateLimiterMemory({ points: 8, duration: QUARTER_S });
/** Of one address, whatever the login. */
const byAddress = new RateLimiterMemory({ points: 60, duration: QUARTER_S });
/** Wrong passwords of one login from all addresses: a high limit, so that strangers cannot lock the owner out. */
const byLogin = new RateLimiterMemory({ points: 100, duration: HOUR_S });
/** Of one browser that its account knows: nobody else's tries count against it. */
const byBrowser = new RateLimiterMemory({ points: 8, duration: QUARTER_S });
/** Wrong passwords of a signed-in account that must confirm its password. */
const byAccount = new RateLimiterMemory({ points: 8, duration: QUARTER_S });

/** An address as limits count it: of IPv6 the half that a household has as a whole. */
export function countedAddress(address: string): string {
  if (!isIPv6(address)) return address;
  const mapped = /^::ffff:(\d+\.\d+\.\d+\.\d+)$/i.exec(address)?.[1];
  if (mapped) return mapped;
  const [head = "", tail = ""] = address.split("::");
  const groups = head.split(":").filter(Boolean);
  const rest = tail.split(":").filter(Boolean);
  const filled = address.includes("::")
    ? [...groups, ...Array<string>(Math.max(0, 8 - groups.length - rest.length)).fill("0"), ...rest]
    : groups;
  return filled
    .slice(0, 4)
    .map((group) => parseInt(group, 16).toString(16))
    .join(":");
}

/** A try that is under way: it counts as wrong until it is known to be right. */
interface Try {
  right(): Promise<void>;
}
type Count = readonly [limiter: RateLimiterMemory, key: string];

/** Counts a try at once, before anything is checked, so that many at a time pass no limit. Null where it is one too many. */
async function counted(counts: readonly Count[]): Promise<Try | null> {
  for (const [limiter, key] of counts) {
    const isTaken = await limiter.consume(key).then(
      () => true,
      () => false,
    );
    if (!isTaken) return null;
  }
  return {
    right: async () => {
      const [[limiter, key], ...wider] = counts as [Count, ...Count[]];
      await limiter.delete(key);
      for (const [one, name] of wider) await one.reward(name);
    },
  };
}

/** Counts a try to sign in: of a browser that the account knows by itself, else of login and address, of the address, of the login. */
export const tryToSignIn = (login: string, address: string, knownBrowser: string | null): Promise<Try | null> => {
  const from = countedAddress(address);
  return counted(
    knownBrowser === null
      ? [
          [byPair, `${login}\n${from}`],
          [byAddress, from],
          [byLogin, login],
        ]
      : [[byBrowser, knownBrowser]],
  );
};

/** Counts a try of a signed-in account to confirm its password. */
export const tryOwnPassword = (accountId: string): Promise<Try | null> => counted([[byAccount, accountId]]);
