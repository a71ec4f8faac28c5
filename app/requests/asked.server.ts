import { setImmediate as breathe } from "node:timers/promises";
import { JsonMeter } from "#formats/text";
import { plainIssue } from "#core/plan";
import { data } from "react-router";
import type { z } from "zod";
import { UNFIT, unfitTextIn } from "../shared/fitText";

const refuse = (message: string): never => {
  throw data(message, { status: 400 });
};

/** Bytes of a body that are counted before others get their turn. */
const TURN_BYTES = 512 * 1024;

/** All of a body, counted by `take` while it arrives: it gives what is too much, and the rest is not waited for. */
async function bytesOf(request: Request, take: (bytes: Uint8Array) => string | null): Promise<Uint8Array> {
  const chunks: Uint8Array[] = [];
  let inTurn = 0;
  for await (const chunk of request.body ?? []) {
    inTurn += (chunk as Uint8Array).length;
    if (inTurn > TURN_BYTES) {
      inTurn = 0;
      await breathe();
    }
    const tooMuch = take(chunk as Uint8Array);
    if (tooMuch !== null) refuse(`What was sent ${tooMuch}.`);
    chunks.push(chunk as Uint8Array);
  }
  return Buffer.concat(chunks);
}

/** The body of a request as JSON; null where it is none. Throws a refusal for what would hold up the server, and for texts that cannot be kept. */
export async function jsonOf(request: Request): Promise<unknown> {
  const meter = new JsonMeter();
  const text = new TextDecoder().decode(await bytesOf(request, (bytes) => meter.take(bytes)));
  // Between steps that grow with the body others get their turn.
  if (text.length > TURN_BYTES) await breathe();
  let body: unknown;
  try {
    body = JSON.parse(text);
  } catch {
    return null;
  }
  if (text.length > TURN_BYTES) await breathe();
  // In JSON such a sign can only be written as an escape.
  const unfit = /\\u(0000|d[89a-f])/i.test(text) ? unfitTextIn(body) : null;
  return unfit === null ? body : refuse(`${unfit} ${UNFIT}.`);
}

/** Fields of a form; the pages' own have some thirty. */
const MOST_FIELDS = 200;
/** Bytes that say what one part of a form in parts is. */
const MOST_HEADER_BYTES = 2000;

/** The form that a request brings. Throws a refusal for what is no form, for more fields than any has, and for texts that cannot be kept. */
export async function formOf(request: Request): Promise<FormData> {
  const type = request.headers.get("content-type") ?? "";
  const boundary = /^multipart\/form-data;.*boundary=(?:"([^"]+)"|([^;]+))/i.exec(type);
  const bytes = await bytesOf(request, () => null);
  const counted = boundary
    ? partsIn(bytes, boundary[1] ?? boundary[2]!)
    : type.startsWith("application/x-www-form-urlencoded")
      ? fieldsIn(bytes)
      : refuse("This page takes a form, and something else arrived.");
  if (counted > MOST_FIELDS) refuse(`The form has more than ${MOST_FIELDS} fields.`);
  const form = await new Response(bytes as Uint8Array<ArrayBuffer>, { headers: { "content-type": type } })
    .formData()
    .catch(() => refuse("The form that arrived is broken."));
  for (const [name, value] of form)
    if (unfitTextIn(name) !== null || (typeof value === "string" && unfitTextIn(value) !== null))
      refuse(`${name.replace(/\0/g, "")} ${UNFIT}.`);
  return form;
}

const AMPERSAND = 0x26;
function fieldsIn(bytes: Uint8Array): number {
  let fields = 1;
  for (let at = bytes.indexOf(AMPERSAND); at >= 0 && fields <= MOST_FIELDS; at = bytes.indexOf(AMPERSAND, at + 1))
    fields++;
  return fields;
}

/** Parts of a form in parts. Throws a refusal where what one says of itself does not end. */
function partsIn(bytes: Uint8Array, boundary: string): number {
  const body = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  let parts = 0;
  for (let at = body.indexOf(`--${boundary}`); at >= 0 && parts <= MOST_FIELDS; parts++) {
    const headerEnd = body.indexOf("\r\n\r\n", at);
    const next = body.indexOf(`\r\n--${boundary}`, at + 1);
    if (next >= 0 && (headerEnd < 0 || headerEnd - at > MOST_HEADER_BYTES)) refuse("The form that arrived is broken.");
    at = next;
  }
  return parts;
}

/** What a request asks for as JSON. Throws an answer that names the field and its bound where it is something else. */
export async function askedOf<Schema extends z.ZodType>(
  request: Request,
  schema: Schema,
  refusal: string,
): Promise<z.infer<Schema>> {
  const asked = schema.safeParse(await jsonOf(request));
  if (asked.success) return asked.data;
  const [issue] = asked.error.issues;
  throw data(`${refusal}: ${issue!.path.join(".")} ${plainIssue(issue!)}`, { status: 400 });
}
