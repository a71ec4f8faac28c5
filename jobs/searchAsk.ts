import { z } from "zod";
import { CHANNEL_SCHOOLS } from "#core/channels";
import { FREEDOMS } from "#core/optimize";
import { WHOM } from "#core/sites";

const id = z.string().min(1).max(64);
const radiusM = z.number().min(0).max(5000);
const km = z.number().min(0.2).max(60);
const dbm = z.number().min(-40).max(60);
const styleSchema = z.object({
  reachKm: km,
  mastM: z.number().min(1).max(120),
  mastEur: z.number().min(0).max(1_000_000),
});
/** The long searches of a plan, as they are asked for. */
export const searchAskSchema = z.discriminatedUnion("kind", [
  z.object({
    kind: z.literal("waysOut"),
    ...{ linkId: id, moveAM: radiusM, moveBM: radiusM, mastM: z.number().min(0).max(60) },
  }),
  z.object({
    kind: z.literal("sectors"),
    siteIds: z.array(id).min(1).max(200),
    may: z.array(z.enum(FREEDOMS)).min(1),
    reachKm: km,
  }),
  z.object({
    kind: z.literal("channels"),
    schools: z.array(z.enum(CHANNEL_SCHOOLS)).min(1).max(CHANNEL_SCHOOLS.length),
    workPeople: z.number().min(0).max(1000),
    fixedIds: z.array(id).max(2000),
    limits: z.object({ allowsDfs: z.boolean(), allowsLicensed: z.boolean(), guardMHz: z.number().min(0).max(1000) }),
    seconds: z.number().min(1).max(300),
  }),
  z.object({
    kind: z.literal("channelRun"),
    moves: z
      .array(
        z.object({
          radioId: id,
          name: z.string().max(120),
          fromMHz: z.number(),
          toMHz: z.number().min(100).max(120_000),
          powers: z.array(z.object({ radioId: id, fromDbm: dbm, toDbm: dbm })).max(2000),
        }),
      )
      .min(1)
      .max(500),
    withFaults: z.boolean(),
  }),
  z.object({
    kind: z.literal("sites"),
    whom: z.enum(WHOM),
    /** Share of their people to be reached. */
    share: z.number().min(0.01).max(1),
    /** Each is answered by itself, so that they stand side by side. */
    styles: z.array(styleSchema).min(1).max(2),
    /** Whether masts may be put on the best high points of the terrain; `powerM` keeps them within so many metres of mains. */
    withNewMasts: z.boolean(),
    powerM: z.number().min(1).max(20_000).nullable(),
    /** Longest bridge that joins two sites. */
    joinKm: km,
    seconds: z.number().min(1).max(600),
  }),
]);
/** What is asked of one kind of search. */
export type AskOf<K extends z.infer<typeof searchAskSchema>["kind"]> = Omit<
  Extract<z.infer<typeof searchAskSchema>, { kind: K }>,
  "kind"
>;
