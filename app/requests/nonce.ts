import { createContext as createRouterContext } from "react-router";
import { createContext } from "react";

/** The nonce that scripts of this answer carry; only the server's render knows it. */
export const NonceContext = createContext<string | undefined>(undefined);

/** The same on its way from the server to the page. */
export const nonceInContext = createRouterContext<string | undefined>(undefined);
