import { bareSchema, fieldsOf, plainIssue, ROW_SCHEMAS, type FieldFacts, type Site, type Subscriber } from "#core/plan";
import { plainFigure } from "#core/words";
import { z } from "zod";

export type RegisterKind = "subscribers" | "sites";
export type RegisterRow = Site | Subscriber;

export interface RegisterColumn {
  key: string;
  label: string;
  type: "text" | "number" | "choice" | "yesno";
  choices?: readonly string[];
  widthPx: number;
  /** Shown before anybody chooses. */
  usual: boolean;
}

function columnOf(key: string, schema: z.ZodType, facts: FieldFacts): RegisterColumn {
  const { widthPx, folded = false } = facts.register!;
  const word = facts.short ?? facts.label;
  const label = word[0]!.toUpperCase() + word.slice(1);
  const column = {
    key,
    widthPx,
    usual: !folded,
    label: facts.unit && facts.unit !== "°" ? `${label}, ${facts.unit}` : label,
  };
  const bare = bareSchema(schema);
  if (bare instanceof z.ZodEnum) return { ...column, type: "choice", choices: bare.options as string[] };
  return { ...column, type: bare instanceof z.ZodNumber ? "number" : bare instanceof z.ZodBoolean ? "yesno" : "text" };
}

/** The columns of each register: those fields of its kind that say where they stand in it. */
export const COLUMNS: Record<RegisterKind, RegisterColumn[]> = {
  subscribers: columnsOf("subscribers"),
  sites: columnsOf("sites"),
};
function columnsOf(kind: RegisterKind): RegisterColumn[] {
  return fieldsOf(kind)
    .filter(({ facts }) => facts.register)
    .sort((x, y) => x.facts.register!.at - y.facts.register!.at)
    .map(({ name, schema, facts }) => columnOf(name, schema, facts));
}

/** A cell as it is read and typed. */
export function cellText(row: RegisterRow, { key, type }: RegisterColumn): string {
  const value = (row as unknown as Record<string, unknown>)[key];
  return type === "yesno" ? (value ? "yes" : "no") : String(value ?? "");
}

/** The row with a cell set to what was typed, or what is wrong with it. */
export function withCell(
  kind: RegisterKind,
  row: RegisterRow,
  column: RegisterColumn,
  typed: string,
): RegisterRow | string {
  const plain = typed.trim();
  const value =
    column.type === "number"
      ? plain === ""
        ? NaN
        : Number(plainFigure(plain))
      : column.type === "yesno"
        ? /^(y|yes|1|true|x)$/i.test(plain)
        : column.type === "choice"
          ? plain.toLowerCase()
          : plain;
  const parsed = ROW_SCHEMAS[kind].safeParse({ ...row, [column.key]: value });
  if (!parsed.success) return `${row.name}: ${column.label} "${plain}" ${plainIssue(parsed.error.issues[0]!)}`;
  const next = parsed.data as RegisterRow;
  if ("maxHeightM" in next && next.antennaHeightM > next.maxHeightM)
    return `${row.name}: ${next.antennaHeightM} m is above the greatest height, ${next.maxHeightM} m`;
  return next;
}
