import {
  plainIssue,
  GLAZINGS,
  MOUNTS,
  SITE_POWERS,
  siteSchema,
  SUBSCRIBER_STATUSES,
  subscriberSchema,
} from "#core/plan";
import type { Site, Subscriber } from "#core/plan";
import { plainFigure } from "#core/words";

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

const text = (key: string, label: string, widthPx: number, usual = true): RegisterColumn => ({
  key,
  label,
  type: "text",
  widthPx,
  usual,
});
const number = (key: string, label: string, widthPx = 84, usual = true): RegisterColumn => ({
  key,
  label,
  type: "number",
  widthPx,
  usual,
});
const choice = (
  key: string,
  label: string,
  choices: readonly string[],
  widthPx = 100,
  usual = true,
): RegisterColumn => ({
  key,
  label,
  type: "choice",
  choices,
  widthPx,
  usual,
});

export const COLUMNS: Record<RegisterKind, RegisterColumn[]> = {
  subscribers: [
    text("name", "Name", 190),
    choice("status", "Status", SUBSCRIBER_STATUSES),
    number("demandMbps", "Down, Mbit/s"),
    number("demandUpMbps", "Up, Mbit/s"),
    text("tier", "Tier", 90),
    number("people", "People", 64),
    choice("mount", "Mount", MOUNTS, 84),
    number("antennaHeightM", "Antenna, m", 84),
    number("maxHeightM", "Greatest, m", 84),
    choice("behind", "Behind", GLAZINGS, 110, false),
    number("latDeg", "Latitude", 96),
    number("lonDeg", "Longitude", 96),
    text("notes", "Notes", 240),
  ],
  sites: [
    text("name", "Name", 170),
    text("structureKind", "Structure", 150),
    number("structureHeightM", "Height, m", 78),
    number("poleDiameterMm", "Pole, mm", 72),
    number("freeMounts", "Mounts", 100),
    choice("power", "Power", SITE_POWERS, 80),
    { key: "isFeed", label: "Feed", type: "yesno", widthPx: 56, usual: true },
    number("feedMbps", "Feed, Mbit/s", 92),
    text("access", "Access", 180),
    text("terms", "Landowner's terms", 160),
    text("hazards", "Hazards", 180),
    number("latDeg", "Latitude", 96, false),
    number("lonDeg", "Longitude", 96, false),
    text("notes", "Notes", 200, false),
  ],
};

export const SCHEMAS = { subscribers: subscriberSchema, sites: siteSchema } as const;

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
  const parsed = SCHEMAS[kind].safeParse({ ...row, [column.key]: value });
  if (!parsed.success) return `${row.name}: ${column.label} "${plain}" ${plainIssue(parsed.error.issues[0]!)}`;
  const next = parsed.data as RegisterRow;
  if ("maxHeightM" in next && next.antennaHeightM > next.maxHeightM)
    return `${row.name}: ${next.antennaHeightM} m is above the greatest height, ${next.maxHeightM} m`;
  return next;
}
