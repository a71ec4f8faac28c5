import { whoAsks } from "#accounts";
import { WRITER_HEADER, type FieldAccount } from "#wire";

/** Who is signed in, as a phone is told; null where nobody signs in. */
export function fieldAccount(): FieldAccount | null {
  const account = whoAsks();
  return account && { id: account.id, name: account.name };
}

/** Throws a 409 where another account wrote what a phone sends than the one that is signed in there now: it waits for its writer. */
export function requireWriter(request: Request): void {
  const writer = request.headers.get(WRITER_HEADER);
  const account = fieldAccount();
  if (!writer || !account || writer === account.id) return;
  const message = `Somebody else wrote this on the phone: it waits until they sign in there. ${account.name} is signed in now.`;
  throw Response.json({ ok: false, message, account }, { status: 409 });
}
