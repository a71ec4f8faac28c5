import { plainIssue } from "#core/plan";
import { data } from "react-router";
import type { z } from "zod";
import { UNFIT, unfitTextIn } from "./fitText";

/** The body of a request as JSON; null where it is none. Throws a refusal for texts that cannot be kept. */
export async function jsonOf(request: Request): Promise<unknown> {
  const body: unknown = await request.json().catch(() => null);
  const unfit = unfitTextIn(body);
  if (unfit !== null) throw data(`${unfit} ${UNFIT}.`, { status: 400 });
  return body;
}

/** The form that a request brings. Throws a refusal for what is no form, and for texts that cannot be kept. */
export async function formOf(request: Request): Promise<FormData> {
  const form = await request.formData().catch(() => null);
  if (!form) throw data("This page takes a form, and something else arrived.", { status: 400 });
  for (const [name, value] of form)
    if (unfitTextIn(name) !== null || (typeof value === "string" && unfitTextIn(value) !== null))
      throw data(`${name.replace(/\0/g, "")} ${UNFIT}.`, { status: 400 });
  return form;
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
