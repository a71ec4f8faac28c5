/** The name under which the key of sealed passwords is taken elsewhere. */
export const SEALING_KEY = "secrets.key";
