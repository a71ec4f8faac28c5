/** How deep the brackets of a JSON text stand within one another, those in its strings aside. One pass, whatever the text holds. */
export function nestingOf(json: string): number {
  let [depth, deepest] = [0, 0];
  let isInString = false;
  for (let i = 0; i < json.length; i++) {
    const code = json.charCodeAt(i);
    if (isInString) {
      if (code === BACKSLASH) i++;
      else if (code === QUOTE) isInString = false;
    } else if (code === QUOTE) isInString = true;
    else if (code === OPEN_LIST || code === OPEN_OBJECT) deepest = Math.max(deepest, ++depth);
    else if (code === CLOSE_LIST || code === CLOSE_OBJECT) depth--;
  }
  return deepest;
}

const [QUOTE, BACKSLASH] = [0x22, 0x5c];
const [OPEN_LIST, CLOSE_LIST, OPEN_OBJECT, CLOSE_OBJECT] = [0x5b, 0x5d, 0x7b, 0x7d];

/** Why a text is no FeatureCollection that can be drawn, as the end of a sentence; null where it is one. */
export function notFeatures(json: string): string | null {
  const nesting = nestingOf(json);
  if (nesting > MOST_NESTED) return `nests ${nesting} brackets, at most ${MOST_NESTED} are read`;
  try {
    const root = JSON.parse(json) as { type?: unknown; features?: unknown } | null;
    return root?.type === "FeatureCollection" && Array.isArray(root.features)
      ? null
      : "is no GeoJSON FeatureCollection";
  } catch {
    return "is no JSON";
  }
}
/** A FeatureCollection of MultiPolygons nests eight; collections of geometries within one another add two each. */
const MOST_NESTED = 32;
