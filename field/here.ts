import type { EndSide, FieldNote } from "#core/crews";
import type { FieldEnd, FieldPack } from "#wire";

/** What a part of the job's page works on. */
export interface Here {
  pack: FieldPack;
  side: EndSide;
  here: FieldEnd;
  there: FieldEnd;
  notes: FieldNote[];
}

/** A moment as the phone's owner tells it. */
export const localTime = (iso: string): string =>
  new Date(iso).toLocaleString("en-GB", { day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" });
