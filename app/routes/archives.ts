import { NO_PLAN, submit } from "#jobs";
import { data } from "react-router";
import { z } from "zod";
import { authorOf } from "../access/author.server";
import { getStore } from "../requests/store.server";
import { jsonOf } from "../requests/asked.server";
import type { Route } from "./+types/archives";

const orderSchema = z.object({ uploadId: z.uuid() });

/** Begins to make a plan of a received archive; answers the job. */
export async function action({ request }: Route.ActionArgs) {
  const order = orderSchema.safeParse(await jsonOf(request));
  if (!order.success) throw data("The order names no received file.", { status: 400 });
  const { uploadId } = order.data;
  const taking = { uploadId, author: authorOf(request) };
  return Response.json(await submit(await getStore(), "takingArchive", NO_PLAN, "Opening a plan archive", taking));
}
