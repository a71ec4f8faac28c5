import type { Patch } from "#core/plan";

/** Keeps a change at once: what was found out on the ground is no matter of trying. */
export async function keepPatches(
  planId: string,
  patches: Patch[],
  what: string,
): Promise<{ ok: boolean; message: string }> {
  const response = await fetch(`/plans/${planId}/changes`, {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify({ patches, what }),
  }).catch(() => null);
  if (!response)
    return { ok: false, message: "Not kept: Tejado does not answer. Nothing that was typed is lost; try again." };
  if (response.headers.get("content-type")?.includes("json"))
    return (await response.json()) as { ok: boolean; message: string };
  return { ok: false, message: await response.text() };
}
