import {
  EXPORT_FORMATS,
  linkThing,
  MEDIA_TYPES,
  outsiderThing,
  siteThing,
  subscriberThing,
  writeThings,
} from "#formats/export";
import { data } from "react-router";
import { z } from "zod";
import { requirePlan } from "../data/plan.server";
import { fileName } from "../data/fileName";
import { formOf } from "../data/asked.server";
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
  const { context, rows, world } = await requirePlan(params.planId);
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
  const { format, ids, ...kinds } = asked.data;
  const summaries = await context.ask("summaries");
  const wanted = ({ id }: { id: string }) => ids.size === 0 || ids.has(id);
  const things = [
    ...(kinds.sites ? rows.sites.filter(wanted).map(siteThing) : []),
    ...(kinds.subscribers ? rows.subscribers.filter(wanted).map(subscriberThing) : []),
    ...(kinds.links ? rows.links.filter(wanted).map((link) => linkThing(world, link, summaries.get(link.id))) : []),
    ...(kinds.outsiders ? rows.outsiders.filter(wanted).map((one) => outsiderThing(world, one)) : []),
  ];
  return new Response(writeThings(things, format), {
    headers: {
      "Content-Type": MEDIA_TYPES[format],
      "Content-Disposition": `attachment; filename="${fileName(rows.plan.name)}.${format}"`,
    },
  });
}
