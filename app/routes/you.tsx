import { getFormProps, useForm, type FieldMetadata } from "@conform-to/react";
import { parseWithZod } from "@conform-to/zod/v4";
import { data, Form, redirect, useNavigation } from "react-router";
import { z } from "zod";
import { isTileUrl, preferencesCookie, preferencesSchema, readPreferences } from "../shared/preferences";
import { ownPath } from "../access/ownPath";
import { Button, FormText } from "../ui";
import { formOf } from "../requests/asked.server";
import type { Route } from "./+types/you";

const formSchema = z.object({
  name: z.string().trim().max(80, "is longer than 80 characters").default(""),
  tileUrl: z
    .string()
    .trim()
    .max(400, "is longer than 400 characters")
    .refine((url) => url === "" || isTileUrl(url), "must be an http or https address with {z}, {x} and {y}")
    .default(""),
  tileAttribution: z.string().trim().max(200, "is longer than 200 characters").default(""),
});

export function loader({ request, url }: Route.LoaderArgs) {
  const from = url.searchParams.get("from") ?? "/";
  return { preferences: readPreferences(request), from: ownPath(from) };
}

export async function action({ request }: Route.ActionArgs) {
  const form = await formOf(request);
  const submission = parseWithZod(form, { schema: formSchema });
  if (submission.status !== "success") return data(submission.reply(), { status: 400 });
  const preferences = preferencesSchema.parse({ ...readPreferences(request), ...submission.value });
  return redirect(ownPath(form.get("from")), { headers: { "Set-Cookie": preferencesCookie(preferences) } });
}

/** What belongs to one person at one browser: their name in the logbook, and their own map tiles. */
export default function You({ loaderData: { preferences, from }, actionData }: Route.ComponentProps) {
  const busy = useNavigation().state !== "idle";
  const [form, fields] = useForm<z.input<typeof formSchema>>({
    ...(actionData ? { lastResult: actionData } : {}),
    defaultValue: preferences,
    onValidate: ({ formData }) => parseWithZod(formData, { schema: formSchema }),
    shouldRevalidate: "onInput",
  });
  const field = (name: "name" | "tileUrl" | "tileAttribution", label: string, hint: string) => (
    <FormText field={fields[name] as FieldMetadata<unknown>} label={label} hint={hint} />
  );
  return (
    <main className="mx-auto max-w-xl px-6 py-6">
      <title>You – Tejado</title>
      <h1 className="mb-3 text-xl font-semibold">You, at this browser</h1>
      {/* A whole new page, for which servers may be asked is written in its headers. */}
      <Form method="post" reloadDocument {...getFormProps(form)} className="space-y-4">
        <input type="hidden" name="from" value={from} />
        {field("name", "Your name", "Stands in the logbook beside what you change.")}
        <fieldset className="space-y-3 rounded border border-rule bg-panel p-3">
          <legend className="px-1 font-semibold">Own map tiles</legend>
          <p className="text-sm text-quiet">
            Off while the address is empty: the map is drawn from the plan&apos;s own terrain and asks nobody. With an
            address, your browser asks that server for pictures of wherever you look, and so tells it where that is.
          </p>
          {field("tileUrl", "Address", "https://tiles.example/{z}/{x}/{y}.png, from a server whose terms allow it")}
          {field("tileAttribution", "Attribution", "What that server wants named; shown on the map.")}
        </fieldset>
        <Button type="submit" look="primary" disabled={busy}>
          Keep
        </Button>
      </Form>
    </main>
  );
}
