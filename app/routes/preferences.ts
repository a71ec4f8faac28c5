import { data } from "react-router";
import { preferencesCookie, preferencesSchema, readPreferences } from "../shared/preferences";
import { formOf } from "../requests/asked.server";
import type { Route } from "./+types/preferences";

export async function action({ request }: Route.ActionArgs) {
  const asked = Object.fromEntries(await formOf(request));
  const preferences = preferencesSchema.parse({ ...readPreferences(request), ...asked });
  return data({ ok: true }, { headers: { "Set-Cookie": preferencesCookie(preferences) } });
}
