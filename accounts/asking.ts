import { AsyncLocalStorage } from "node:async_hooks";
import type { Account } from "#store";

const asking = new AsyncLocalStorage<Account | null>();

/** Answers a request as somebody's: whatever is done until it is answered is signed with that account. */
export const asAccount = <T>(account: Account | null, answer: () => T): T => asking.run(account, answer);

/** Who asks; null where nobody signs in because Tejado answers its own machine only. */
export const whoAsks = (): Account | null => asking.getStore() ?? null;
