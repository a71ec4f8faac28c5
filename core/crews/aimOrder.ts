import { END_SIDES, inOrder, type AimAxis, type EndSide, type FieldNote } from "./note";

/** One turn of an aim: which axis, at which end. */
interface AimTurn {
  side: EndSide;
  axis: AimAxis;
  isLocked: boolean;
}

/** Ends take turns: azimuth here and there, then elevation here and there, because each is found best once the other end looks the right way. */
export function aimTurns(notes: readonly FieldNote[]): AimTurn[] {
  const written = inOrder(notes);
  return (["azimuth", "elevation"] as const).flatMap((axis) =>
    END_SIDES.map((side) => ({
      ...{ side, axis },
      isLocked:
        written.findLast((note) => note.side === side && note.kind === "locked" && note.key === axis)?.isOn ?? false,
    })),
  );
}
