import { useCallback, useState } from "react";
import type { Here } from "./here";
import { readTyped, typedKey, writeTyped } from "./typed";

/**
 * Text that somebody types at one end of a job: written to the phone with every letter, so that a change of tab, a reload or a dead
 * battery takes none of it. `start` is what stands in the box while nothing is typed.
 */
export function useTyped(
  { pack, side }: Pick<Here, "pack" | "side">,
  box: string,
  start = "",
): [text: string, type: (text: string) => void] {
  const key = typedKey(pack.planId, pack.visit.id, side, box);
  const [, setCount] = useState(0);
  const type = useCallback(
    (text: string) => {
      writeTyped(key, text, start);
      setCount((count) => count + 1);
    },
    [key, start],
  );
  return [readTyped(key) ?? start, type];
}
