import { cellAt, clientEnd, COVERAGE_REASONS, REASON_WORDS, type CoverageReason } from "#core/coverage";
import type { Place } from "#core/geodesy";
import { answerLink, type OwnNoise } from "#core/link";
import { endOf, type Radio } from "#core/plan";
import type { Profile } from "#core/terrain";
import { useMemo } from "react";
import { SectionUnderCursor } from "../../../desk/cursor";
import { useView } from "../../../ask/useView";
import { useDesk } from "../../../desk/DeskContext";
import { TapeView } from "../../../tape/TapeView";
import { figure, useFormats } from "../../../ui";
import type { Covering, Painted } from "./useCells";

/** What one cell was told. */
interface Cell {
  downDbm: number;
  snrDb: number;
  sinrDb: number;
  rateMbps: number;
  reason: CoverageReason;
  /** Who serves it best; null where nobody does. */
  server: Radio | null;
}

/** What the cell at a place was told; null outside the grid. */
export function toldAt({ cells, grid, sectors }: Painted, place: Place): Cell | null {
  const cell = cellAt(grid, place);
  if (cell === null) return null;
  return {
    downDbm: cells.downDbm[cell]!,
    snrDb: cells.snrDb[cell]!,
    sinrDb: cells.sinrDb[cell]!,
    rateMbps: cells.rateMbps[cell]!,
    reason: COVERAGE_REASONS[cells.reason[cell]!]!,
    server: sectors[cells.server[cell]!] ?? null,
  };
}

const NOBODY_HEARD: OwnNoise = { dbm: null, radios: [], faintCount: 0 };

/** A cell that was asked about: what it was told, and the full answer to somebody who would stand there, with section and tape. */
export function CellAnswer({
  here,
  place,
  asked,
  profile,
  isOfSeveral,
  onHeight,
}: {
  here: Cell;
  place: Place;
  asked: Covering;
  profile: Profile | undefined;
  isOfSeveral: boolean;
  onHeight: (end: "a" | "b", heightM: number) => void;
}) {
  const { world, draft } = useDesk();
  const formats = useFormats();
  const { plan } = world;
  const ends = useMemo(
    () => ({
      a: endOf(world, asked.radio.id),
      b: { ...clientEnd(world, asked.radio, asked.kit), place, placeName: "Here" },
    }),
    [world, asked, place],
  );
  const radioId = asked.radio.id;
  const { kit } = asked;
  const ask = useMemo(() => ({ kind: "heardAt", radioId, kit, place }) as const, [radioId, kit, place]);
  const { rows } = useView<OwnNoise>(plan.id, draft.patches, ask);
  const heardHere = rows?.[0];
  const answer = profile
    ? answerLink({
        ...{ plan, kind: "access", foliageDepthM: null, ...ends, profile },
        heard: { a: asked.heard ?? NOBODY_HEARD, b: heardHere ?? NOBODY_HEARD },
      })
    : null;
  return (
    <div className="flex h-full min-h-0">
      <div
        className="w-64 shrink-0 overflow-y-auto border-r border-rule p-2 text-[13px]"
        tabIndex={0}
        role="region"
        aria-label="The cell"
      >
        <p className="font-semibold">{formats.place(place)}</p>
        {isOfSeveral && <p>from {asked.radio.name}</p>}
        <p data-cell>
          {here.reason === "unknown"
            ? REASON_WORDS.unknown
            : `${figure(here.downDbm, 0)} dBm on a chain, SNR ${figure(here.snrDb, 0)} dB, ${Number.isFinite(here.sinrDb) ? `SINR ${figure(here.sinrDb, 0)} dB, ` : ""}${here.rateMbps > 0 ? `${figure(here.rateMbps, 0)} Mbit/s the weaker way` : REASON_WORDS[here.reason]}.`}
        </p>
        {answer?.path && (
          <>
            <p className="mt-1 text-xs text-quiet">
              {heardHere
                ? "The link budget toward the customer, interference at his place counted:"
                : "The link budget toward the customer, interference at his place not counted yet:"}
            </p>
            <TapeView tape={answer.path.aToB} caption="Toward the customer" />
          </>
        )}
      </div>
      <div className="min-w-0 flex-1">
        {profile && answer?.path ? (
          <SectionUnderCursor
            profile={profile}
            path={answer.path}
            {...ends}
            kFactor={plan.kFactor}
            onHeight={onHeight}
          />
        ) : (
          <p className="flex h-full items-center justify-center text-sm text-quiet">
            {answer?.problem ? "This path cannot be answered." : "Reading the profile…"}
          </p>
        )}
      </div>
    </div>
  );
}
