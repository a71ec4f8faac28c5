import { airSteps, type Air } from "#core/interference";
import type { World } from "#core/plan";
import { finished } from "#core/steps";
import { useEffect, useMemo } from "react";
import { inSlices } from "./inSlices";

/**
 * What is on a plan's air, worked out when it is first asked for; of a large plan beforehand, in slices, since the hand would wait for
 * it when the first change is made.
 */
export function useAir(kept: World, isLarge: boolean): () => Air {
  const known = useMemo(() => {
    const steps = airSteps(kept);
    let air: Air | null = null;
    return {
      ask: () => (air ??= finished(steps)),
      // Whoever asked meanwhile has driven the same steps to their end, and they give nothing more.
      beforehand: () => inSlices(steps, (made) => (air ??= made)),
    };
  }, [kept]);
  useEffect(() => (isLarge ? known.beforehand() : undefined), [isLarge, known]);
  return known.ask;
}
