import {
  generateAuthenticationOptions,
  generateRegistrationOptions,
  verifyAuthenticationResponse,
  verifyRegistrationResponse,
  type AuthenticationResponseJSON,
  type PublicKeyCredentialCreationOptionsJSON,
  type PublicKeyCredentialRequestOptionsJSON,
  type RegistrationResponseJSON,
} from "@simplewebauthn/server";
import { addPasskey, listPasskeys, passkeyOf, setPasskeyCounter, type Account, type Queries } from "#store";

/** Where passkeys are for: the scheme and host that a browser shows. */
export interface PasskeySite {
  origin: string;
  host: string;
}

/** Challenges that were given out and not answered, until when each holds, ms. */
const given = new Map<string, number>();
const HOLDS_MS = 300_000;
const MOST_GIVEN = 10_000;

function giveOut(challenge: string): void {
  const now = Date.now();
  for (const [old, until] of given) if (until < now || given.size >= MOST_GIVEN) given.delete(old);
  given.set(challenge, now + HOLDS_MS);
}
/** Whether a challenge was given out; it is answered once. */
function takeBack(challenge: string): boolean {
  const until = given.get(challenge);
  given.delete(challenge);
  return until !== undefined && until >= Date.now();
}

/** What a browser needs to make a passkey for an account. */
export async function registrationOptions(
  db: Queries,
  account: Account,
  { host }: PasskeySite,
): Promise<PublicKeyCredentialCreationOptionsJSON> {
  const options = await generateRegistrationOptions({
    ...{ rpName: "Tejado", rpID: host, userName: account.login, userDisplayName: account.name },
    userID: new TextEncoder().encode(account.id),
    excludeCredentials: (await listPasskeys(db, account.id)).map(({ id }) => ({ id })),
    authenticatorSelection: { residentKey: "required", userVerification: "required" },
  });
  giveOut(options.challenge);
  return options;
}

/** Keeps a passkey that a browser made; false where it does not answer what was asked. */
export async function register(
  db: Queries,
  account: Account,
  response: RegistrationResponseJSON,
  { origin, host }: PasskeySite,
): Promise<boolean> {
  const asked = { response, expectedChallenge: takeBack, expectedOrigin: origin, expectedRPID: host };
  const verified = await verifyRegistrationResponse(asked).catch(() => null);
  if (!verified?.verified) return false;
  const { id, publicKey, counter } = verified.registrationInfo.credential;
  await addPasskey(db, { id, accountId: account.id, publicKey: Buffer.from(publicKey).toString("base64url"), counter });
  return true;
}

/** What a browser needs to show one of its passkeys. */
export async function signInOptions({ host }: PasskeySite): Promise<PublicKeyCredentialRequestOptionsJSON> {
  const options = await generateAuthenticationOptions({ rpID: host, userVerification: "required" });
  giveOut(options.challenge);
  return options;
}

/** The id of the account that a shown passkey opens; null for one that is unknown or does not answer what was asked. */
export async function accountShown(
  db: Queries,
  response: AuthenticationResponseJSON,
  { origin, host }: PasskeySite,
): Promise<string | null> {
  const passkey = await passkeyOf(db, response.id);
  if (!passkey) return null;
  const { id, publicKey, counter, accountId } = passkey;
  const verified = await verifyAuthenticationResponse({
    ...{ response, expectedChallenge: takeBack, expectedOrigin: origin, expectedRPID: host },
    credential: { id, publicKey: new Uint8Array(Buffer.from(publicKey, "base64url")), counter },
  }).catch(() => null);
  if (!verified?.verified) return null;
  await setPasskeyCounter(db, id, verified.authenticationInfo.newCounter);
  return accountId;
}
