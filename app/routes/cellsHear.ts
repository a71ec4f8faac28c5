import { askPool, cellsHearAskSchema, Stopped } from "#pool";
import { data } from "react-router";
import { z } from "zod";
import { parseDraft } from "../keep/patches.server";
import { askedOf } from "../requests/asked.server";
import { openPlan } from "../requests/plan.server";
import type { Route } from "./+types/cellsHear";

const askSchema = cellsHearAskSchema.extend({ patches: z.unknown() });

/** Interference at a sector's customer in given cells, with the change in hand: one 32-bit float per cell, dBm. */
export async function action({ params, request }: Route.ActionArgs) {
  const { context } = await openPlan(params.planId);
  const { patches, ...ask } = await askedOf(request, askSchema, "That cannot be asked");
  try {
    const { answer } = await askPool(
      context,
      await parseDraft(patches, params.planId),
      { kind: "cellsHear", ask },
      { signal: request.signal },
    );
    return new Response(Uint8Array.from(new Uint8Array(answer.buffer, answer.byteOffset, answer.byteLength)), {
      headers: { "Content-Type": "application/x-tejado-levels" },
    });
  } catch (error) {
    if (error instanceof Stopped) throw data("Nobody waits for that any more.", { status: 409 });
    if (error instanceof RangeError) throw data(error.message, { status: 404 });
    throw error;
  }
}
