import type { RunningServer } from "./startServer";

/** How long the year behind the demo may take to be played and looked at, ms. */
const LONGEST_LOOK_MS = 300_000;

/** Has the demo's watch look for the first time, and waits for it. */
export async function firstLook({ origin }: RunningServer): Promise<void> {
  const kept = `${origin}/plans/isla-orvena/watch/kept`;
  await fetch(kept, {
    method: "POST",
    headers: { Origin: origin, "Content-Type": "application/json" },
    body: JSON.stringify({ intent: "look" }),
  });
  const begun = Date.now();
  for (;;) {
    const { look } = (await (await fetch(kept)).json()) as { look: unknown };
    if (look) return;
    if (Date.now() > begun + LONGEST_LOOK_MS) throw new Error("the demo was not looked at");
    await new Promise((resolve) => setTimeout(resolve, 500));
  }
}
