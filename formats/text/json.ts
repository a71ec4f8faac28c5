import { nestingOf } from "#core/plan";

/** Deeper than this no file of ours or of an open format stands; whatever walks it may do so step by step. */
const MOST_NESTED = 200;

/** What a text says as JSON, or in words of ours where it is none. */
type ReadJson = { value: unknown; problem: null } | { value: null; problem: string };

/** Reads JSON. Its problem ends a sentence that begins with the file: "is no JSON: …, in line 3". */
export function readJson(text: string): ReadJson {
  const nesting = nestingOf(text);
  if (nesting > MOST_NESTED)
    return { value: null, problem: `nests ${nesting} brackets, at most ${MOST_NESTED} are read` };
  try {
    return { value: JSON.parse(text) as unknown, problem: null };
  } catch (error) {
    if (text.trim() === "") return { value: null, problem: "is empty" };
    const at = Number(/position (\d+)/.exec((error as Error).message)?.[1] ?? text.length);
    const line = text.slice(0, at).split("\n").length;
    const what =
      at >= text.trimEnd().length ? "it ends too soon" : "a bracket, comma or quotation mark is missing or too many";
    return { value: null, problem: `is no JSON: ${what}, in line ${line}` };
  }
}
