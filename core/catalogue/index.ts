import { equipmentSchema, type Equipment } from "../plan";
import { ANTENNAS } from "./antennas";
import { PARTS } from "./parts";
import { RADIOS } from "./radios";

export { RADIOS };

/** The library that a new plan starts with, as rows of that plan; every sheet passes its schema. */
export function libraryFor(planId: string): Equipment[] {
  return [
    ...ANTENNAS.map((body) => equipmentSchema.parse({ kind: "antenna", id: body.id, planId, body })),
    ...RADIOS.map((body) => equipmentSchema.parse({ kind: "radio", id: body.id, planId, body })),
    ...PARTS.map((body) => equipmentSchema.parse({ kind: "part", id: body.id, planId, body })),
  ];
}
