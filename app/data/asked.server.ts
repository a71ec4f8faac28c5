import { data } from "react-router";
import type { z } from "zod";

/** What a request asks for as JSON. Throws an answer that names the field and its bound where it is something else. */
export async function askedOf<Schema extends z.ZodType>(
  request: Request,
  schema: Schema,
  refusal: string,
): Promise<z.infer<Schema>> {
  const asked = schema.safeParse(await request.json().catch(() => null));
  if (asked.success) return asked.data;
  const { path, message } = asked.error.issues[0]!;
  throw data(`${refusal}: ${path.join(".")} ${message}`, { status: 400 });
}
