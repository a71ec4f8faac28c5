/** How deep the brackets of a JSON text stand within one another, those in its strings aside. One pass, whatever the text holds. */
export function nestingOf(json: string): number {
  let [depth, deepest] = [0, 0];
  let isInString = false;
  for (let i = 0; i < json.length; i++) {
    const character = json[i];
    if (isInString) {
      if (character === "\\") i++;
      else if (character === '"') isInString = false;
    } else if (character === '"') isInString = true;
    else if (character === "[" || character === "{") deepest = Math.max(deepest, ++depth);
    else if (character === "]" || character === "}") depth--;
  }
  return deepest;
}

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
