import { RasterError } from "./error";

const FOOT_M = 0.3048;
const US_FOOT_M = 1200 / 3937;
/** Lengths by their EPSG code. */
export const LENGTH_UNITS_M: Record<number, number> = { 9001: 1, 9002: FOOT_M, 9003: US_FOOT_M };
/** Vertical systems that count in feet, by EPSG code; the others that terrain comes in count in metres. */
const VERTICAL_FEET_M: Record<number, number> = {
  5702: US_FOOT_M,
  6358: US_FOOT_M,
  6360: US_FOOT_M,
  8050: FOOT_M,
  8051: FOOT_M,
  8052: US_FOOT_M,
  8053: US_FOOT_M,
  8228: FOOT_M,
};
const UNIT_NAMES: Record<string, number> = {
  m: 1,
  metre: 1,
  metres: 1,
  meter: 1,
  meters: 1,
  ft: FOOT_M,
  foot: FOOT_M,
  feet: FOOT_M,
  "international foot": FOOT_M,
  ftus: US_FOOT_M,
  "us-ft": US_FOOT_M,
  "us survey foot": US_FOOT_M,
  "us survey feet": US_FOOT_M,
  cm: 0.01,
  centimetre: 0.01,
  centimeter: 0.01,
};

/** What becomes of a stored number: value · scale + offset, in metres. */
interface ValueRule {
  scale: number;
  offset: number;
}

/** Items of the writer's own metadata for the first band, by role. */
function itemsOf(xml: string): Map<string, string> {
  const items = new Map<string, string>();
  for (const [, attributes, text] of xml.matchAll(/<Item\b([^>]*)>([^<]*)<\/Item>/g)) {
    const role = /\brole="([^"]*)"/.exec(attributes!)?.[1];
    const sample = /\bsample="([^"]*)"/.exec(attributes!)?.[1];
    if (role && (sample === undefined || sample === "0")) items.set(role, text!.trim());
  }
  return items;
}

/**
 * How stored numbers become heights in metres: scale and offset from the metadata, the vertical unit from the keys or the
 * metadata. Classes of cover have no unit. Throws RasterError for a unit that is not known.
 */
export function valueRuleOf(metadata: string, keys: Record<string, unknown>, values: "heights" | "classes"): ValueRule {
  const items = itemsOf(metadata);
  const number = (role: string, otherwise: number) => {
    const text = items.get(role);
    if (text === undefined) return otherwise;
    const value = Number(text);
    if (!Number.isFinite(value)) throw new RasterError(`the metadata's ${role} is "${text}"; a number was expected`);
    return value;
  };
  const scale = number("scale", 1);
  const offset = number("offset", 0);
  if (values === "classes") return { scale, offset };
  const unitKey = keys.VerticalUnitsGeoKey;
  const systemKey = keys.VerticalGeoKey ?? keys.VerticalCSTypeGeoKey;
  const unitName = items.get("unittype")?.toLowerCase();
  let metres = 1;
  if (unitName) {
    const known = UNIT_NAMES[unitName];
    if (known === undefined)
      throw new RasterError(
        `the heights are in "${items.get("unittype")}", which is not known here; metres or feet are`,
      );
    metres = known;
  } else if (typeof unitKey === "number" && unitKey > 0 && unitKey < 32767) {
    const known = LENGTH_UNITS_M[unitKey];
    if (known === undefined)
      throw new RasterError(`the heights are in the unit EPSG:${unitKey}, which is not known here; metres or feet are`);
    metres = known;
  } else if (typeof systemKey === "number") metres = VERTICAL_FEET_M[systemKey] ?? 1;
  return { scale: scale * metres, offset: offset * metres };
}
