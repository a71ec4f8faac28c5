import { fieldWord, valueWord } from "#core/plan";
import { format } from "date-fns";
import type { ReactNode } from "react";
import type { ConflictWire } from "./answer";

/** One conflict in words: both values, who and when. `children` are the ways to settle it. */
export function ConflictRow({
  conflict,
  withName = true,
  children,
}: {
  conflict: ConflictWire;
  withName?: boolean;
  children: ReactNode;
}) {
  const { kind, name, field, theirs, mine, who, at } = conflict;
  const when = format(new Date(at), "HH:mm");
  return (
    <div className="flex flex-wrap items-center gap-x-2 gap-y-1 text-[13px]">
      <p className="min-w-0 flex-1">
        <span className="text-tight" aria-hidden="true">
          ⇄{" "}
        </span>
        {field === "" ? (
          <>
            {theirs === null
              ? `${who || "Somebody"} removed ${name} at ${when}.`
              : mine === null
                ? `${who || "Somebody"} worked on ${name} at ${when}, and here it would be removed.`
                : `${who || "Somebody"} put ${name} there at ${when}.`}
          </>
        ) : (
          <>
            {who || "Somebody"} set {withName ? `${name}, ` : ""}
            {fieldWord(kind, field)} to <strong className="figures">{valueWord(kind, field, theirs)}</strong> at {when};
            here it is <strong className="figures">{valueWord(kind, field, mine)}</strong>.
          </>
        )}
      </p>
      {children}
    </div>
  );
}

/** Whether one's own can still be kept: a field can, a removal can, but not a change to a thing that is gone. */
export function canKeepMine({ field, theirs, mine }: ConflictWire): boolean {
  return field !== "" || (theirs !== null && mine === null);
}
