import type { RequestHandler } from "express";

const YEAR_MS = 365 * 24 * 3600 * 1000;

/** Whom to tell of a hole in this Tejado, as RFC 9116 has it; not there where its keeper named nobody. */
export function securityText(contact: string | null): RequestHandler {
  return (_request, response) => {
    if (contact === null) {
      response.status(404).type("text").send("Who keeps this Tejado has named nobody to write to.");
      return;
    }
    const expires = new Date(Date.now() + YEAR_MS).toISOString();
    response.type("text").send(`Contact: ${contact}\nExpires: ${expires}\nPreferred-Languages: en\n`);
  };
}
