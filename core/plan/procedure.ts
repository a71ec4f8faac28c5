import { z } from "zod";

const stepId = z.string().trim().min(1).max(60);

/** Drawings that a step can show; what they show is worked out from the end that the step is for. */
export const DIAGRAMS = ["polarization", "ports", "joint", "crissCross", "scale"] as const;
export type Diagram = (typeof DIAGRAMS)[number];

/** One step of putting something up. */
export const stepSchema = z.object({
  id: stepId,
  text: z.string().min(1).max(400),
  /** The part that it is about, with its number in the box. */
  part: z.string().max(80).default(""),
  /** The tool, with its size. */
  tool: z.string().max(80).default(""),
  torqueNm: z.number().positive().max(500).nullable().default(null),
  /** Said where the step is, and confirmed before it is taken. */
  caution: z.string().max(300).default(""),
  hint: z.string().max(300).default(""),
  /** What goes wrong where the order is lost. */
  trap: z.string().max(300).default(""),
  minutes: z.number().min(0).max(600).default(5),
  diagram: z.enum(DIAGRAMS).nullable().default(null),
  /** Only in these rule sets, or only where the path looks up or down; empty for everywhere. */
  when: z
    .object({ ruleSetIds: z.array(z.string()).default([]), looks: z.enum(["up", "down"]).nullable().default(null) })
    .default({ ruleSetIds: [], looks: null }),
  /** Steps that this one comes before, and steps that it comes after; ids that the sheet does not hold bind nobody. */
  before: z.array(stepId).default([]),
  after: z.array(stepId).default([]),
  /** The step that goes on meanwhile, such as holding what this one screws on: this one stands right behind it on the sheet. */
  while: stepId.nullable().default(null),
});
export type Step = z.infer<typeof stepSchema>;

/** How one kind of kit goes together, in the order in which its maker tells it. */
export const procedureSchema = z
  .object({
    id: z.string().min(1).max(60),
    name: z.string().trim().min(1).max(120),
    /** Radios, antennas and brackets of the library whose ends follow it; those that ship know their kit themselves. */
    forModels: z.array(z.string().max(64)).max(200).default([]),
    steps: z.array(stepSchema).min(1).max(200),
  })
  .refine(({ steps }) => new Set(steps.map(({ id }) => id)).size === steps.length, "every step needs an id of its own");
export type Procedure = z.infer<typeof procedureSchema>;
