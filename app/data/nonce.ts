import { createContext } from "react";

/** The nonce that scripts of this answer carry; only the server's render knows it. */
export const NonceContext = createContext<string | undefined>(undefined);
