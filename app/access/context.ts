import type { Account } from "#store";
import { createContext } from "react-router";

/** How this Tejado is reached, and who asks. */
interface Access {
  /** It answers beyond its own machine, so whoever asks has to sign in. */
  isOpen: boolean;
  account: Account | null;
  /** Cookies go over an encrypted way only. */
  isSecure: boolean;
  /** The address that asks, for limits. */
  address: string;
}

/** The same on its way from the server to the routes. */
export const accessInContext = createContext<Access>({ isOpen: false, account: null, isSecure: false, address: "" });
