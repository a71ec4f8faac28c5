import { EXPORT_FORMATS, MEDIA_TYPES } from "#formats/export";
import { data } from "react-router";
import { z } from "zod";
import { openPlan } from "../requests/plan.server";
import { fileName } from "../requests/fileName";
import { formOf } from "../requests/asked.server";
import type { Route } from "./+types/exportFile";

const orderSchema = z.object({
  format: z.enum(EXPORT_FORMATS),
  sites: z.coerce.boolean(),
  subscribers: z.coerce.boolean(),
  links: z.coerce.boolean(),
  outsiders: z.coerce.boolean(),
  /** Ids of what is wanted, one a line; empty takes all of the chosen kinds. */
  ids: z.string().transform((text) => new Set(text.split("\n").filter(Boolean))),
});

/** A selection as a file in an open format. A form posts it, for a selection may be longer than any address. */
export async function action({ params, request }: Route.ActionArgs) {
  const { context } = await openPlan(params.planId);
  const form = await formOf(request);
  const asked = orderSchema.safeParse({
    format: form.get("format"),
    sites: form.get("sites"),
    subscribers: form.get("subscribers"),
    links: form.get("links"),
    outsiders: form.get("outsiders"),
    ids: form.get("ids") ?? "",
  });
  if (!asked.success) throw data("An export names its format and what is to be in it.", { status: 400 });
  const { format } = asked.data;
  const { plan } = await context.ask("plan");
  return new Response(await context.ask("thingsFile", asked.data), {
    headers: {
      "Content-Type": MEDIA_TYPES[format],
      "Content-Disposition": `attachment; filename="${fileName(plan.name)}.${format}"`,
    },
  });
}
