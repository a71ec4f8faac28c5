import { onChange } from "#engine";
import { requirePlanId } from "../data/plan.server";
import type { Route } from "./+types/events";

/** Something is sent now and then, so that nobody in between takes the line for dead. */
const ALIVE_MS = 25_000;

/** Tells a window the revision of its plan, and each new one as it comes, whoever made it. */
export async function loader({ params: { planId }, request }: Route.LoaderArgs) {
  const store = await requirePlanId(planId);
  const text = new TextEncoder();
  let end: () => void = () => undefined;
  const stream = new ReadableStream<Uint8Array>({
    async start(line) {
      const say = (words: string) => line.enqueue(text.encode(words));
      say("retry: 2000\n\n");
      const stop = await onChange(store, planId, (revision) => say(`data: ${revision}\n\n`));
      const alive = setInterval(() => say(": here\n\n"), ALIVE_MS);
      end = () => {
        end = () => undefined;
        clearInterval(alive);
        stop();
        if (request.signal.aborted) line.close();
      };
      if (request.signal.aborted) return end();
      request.signal.addEventListener("abort", () => end());
    },
    cancel: () => end(),
  });
  return new Response(stream, {
    headers: { "Content-Type": "text/event-stream", "Cache-Control": "no-cache, no-transform" },
  });
}
