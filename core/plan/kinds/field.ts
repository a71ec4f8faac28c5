import { z } from "zod";

/** A row that a field points at, and what becomes of the pointing row when that one is removed. */
export interface Reference {
  /** Kind of the row, or, where another field decides, the kind by that field's value. */
  to: string | { field: string; kinds: Readonly<Record<string, string>> };
  /** Of the library: which sort of sheet, and of a part which sort of part. */
  sheet?: "antenna" | "radio" | "part" | "procedure";
  part?: string;
  /** "remove" takes the pointing row along, "clear" empties the field, "refuse" keeps the other from being removed. */
  whenGone: "remove" | "clear" | "refuse";
}

/**
 * What has to be worked out again when a field changes: what others hear of its row ("heard"), where it stands ("moved"), the answers of
 * its own links ("answered"), who stands behind a link ("behind"), and what bridges must carry ("required").
 */
export type Effect = "heard" | "moved" | "answered" | "behind" | "required";

/** All that is said of a field in one place; lists, checks, controls, words and files are made from it. */
export interface FieldFacts {
  /** Label of its control, a noun. */
  label: string;
  /** The same where there is little room and in the logbook; the label where left out. */
  short?: string;
  /** One sentence of explanation, shown as a tooltip. */
  help?: string;
  unit?: string;
  /** Step and decimals of its control. */
  step?: number;
  decimals?: number;
  /** Lines of its text box. */
  lines?: number;
  /** Its choices in words, where the values are no words. */
  words?: Readonly<Record<string, string>>;
  /** What a new place has until a survey says otherwise. */
  start?: unknown;
  /** Schema of the database that brought the field, and what rows from before it say; its default where left out. */
  since?: number;
  before?: unknown;
  refersTo?: Reference;
  /** Empty where nothing is worked out from it; left out where only findings are. */
  affects?: readonly Effect[];
  /** "crew" may change it from the roof too, "tejado" alone sets it when the row is made. Planners change the rest. */
  setBy?: "crew" | "tejado";
  /** Its column in the register: where, how wide, and whether it is folded away at first. */
  register?: { at: number; widthPx: number; folded?: true };
  /** Its column in files of places: the name under which it is written, its title, and names under which it is read. */
  column?: { key: string; title: string; names: readonly string[] };
}

export const FIELD_FACTS = z.registry<FieldFacts>();

/** A field's schema together with what is said of it. */
export function field<T extends z.ZodType>(schema: T, facts: FieldFacts): T {
  const own = schema.clone() as T;
  FIELD_FACTS.add(own, facts);
  return own;
}

export const id = z.string().min(1).max(64);
/** Characters that a name may have. */
export const LONGEST_NAME = 120;
export const name = z.string().trim().min(1, "needs a name").max(LONGEST_NAME);
export const latDeg = z.number().min(-90).max(90);
export const lonDeg = z.number().min(-180).max(180);
export const heightM = z.number().min(0).max(500);
export const moment = z
  .string()
  .max(64)
  .refine((text) => Number.isFinite(Date.parse(text)), "must be a moment such as 2026-11-27T08:00:00Z");
export const day = z.string().regex(/^\d{4}-\d\d-\d\d$/, "must be a day such as 2026-11-27");

/** The two fields with which every row of a plan begins. */
export const keys = {
  id: field(id, { label: "Id", setBy: "tejado" }),
  planId: field(id, { label: "Plan", setBy: "tejado" }),
};

/** A kind of row: its schema, its fields in the order of its table, and how people call it. */
export interface KindDeclaration<S extends z.ZodType = z.ZodType> {
  schema: S;
  shape: Readonly<Record<string, z.ZodType>>;
  one: string;
  many: string;
  /** Version of the archive that brought it; the first where left out. */
  archiveFrom?: number;
  /** Rows that people read and write in files, as a table. */
  isTable?: true;
  /** Rows that only follow from others: they go and come with them and are not named beside them. */
  follows?: true;
}

/** Declares a kind whose rows are one plain object each. */
export const kindOf = <S extends z.ZodObject>(
  schema: S,
  words: Omit<KindDeclaration, "schema" | "shape">,
): KindDeclaration<S> => ({ schema, shape: schema.shape, ...words });
