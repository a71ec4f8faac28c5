import { z } from "zod";
import { antennaModelSchema } from "../antenna";
import { equipmentSchema, partSchema, type Equipment } from "../plan";
import { radioModelSchema } from "../radio";
import antennas from "./antennas.json" with { type: "json" };
import parts from "./parts.json" with { type: "json" };
import radios from "./radios.json" with { type: "json" };

/** Data sheets of invented makers, as data: a model more is no programming. Noted 2026-11-01, parts 2026-11-26. */
export const RADIOS = z.array(radioModelSchema).parse(radios);
const ANTENNAS = z.array(antennaModelSchema).parse(antennas);
const PARTS = z.array(partSchema).parse(parts);

/** The library that a new plan starts with, as rows of that plan; every sheet passes its schema. */
export function libraryFor(planId: string): Equipment[] {
  return [
    ...ANTENNAS.map((body) => equipmentSchema.parse({ kind: "antenna", id: body.id, planId, body })),
    ...RADIOS.map((body) => equipmentSchema.parse({ kind: "radio", id: body.id, planId, body })),
    ...PARTS.map((body) => equipmentSchema.parse({ kind: "part", id: body.id, planId, body })),
  ];
}
