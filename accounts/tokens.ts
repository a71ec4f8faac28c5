import { createHash, randomBytes } from "node:crypto";

/** A token that nobody guesses, and what is kept of it. */
export function newToken(): { token: string; tokenHash: string } {
  const token = randomBytes(32).toString("base64url");
  return { token, tokenHash: tokenHashOf(token) };
}

/** What the database knows a token by. */
export const tokenHashOf = (token: string): string => createHash("sha256").update(token).digest("hex");
