import { endOf, freeName, radioPatches, setPatch, type Radio } from "#core/plan";
import {
  bestHeading,
  bestTilt,
  evenHeadings,
  headingWords,
  seamsOf,
  tiltText,
  tiltWords,
  widestGapDeg,
  widthWords,
  type HeadingRow,
  type SectorCustomer,
  type TiltRow,
} from "#core/sectors";
import { useMemo } from "react";
import { Group, Panel, Separator } from "react-resizable-panels";
import { useView } from "../../ask/useView";
import { useDesk } from "../../desk/DeskContext";
import { Button, figure, NumberField } from "../../ui";
import { Elevation } from "./Elevation";
import { CUSTOMER_WORDS, CustomerMark, Rose, type CustomerState, type OnRose } from "./Rose";
import { spreadOf } from "./scene";
import type { Around } from "../../desk/useAround";

/** The marks of the rose, in words. */
function Legend() {
  return (
    <ul className="flex flex-wrap gap-x-3 gap-y-0.5 text-xs text-quiet">
      {(Object.keys(CUSTOMER_WORDS) as CustomerState[]).map((state) => (
        <li key={state} className="flex items-center gap-1">
          <svg width="14" height="14" viewBox="-8 -8 16 16" aria-hidden="true">
            <CustomerMark state={state} />
          </svg>
          {CUSTOMER_WORDS[state]}
        </li>
      ))}
    </ul>
  );
}

/** The rose of a site over the elevation of its chosen sector: headings and tilts by hand, and those that serve most. */
export function RoseView({
  siteId,
  sectors,
  sector,
  seen: { around, failed },
  customersOf: ofSector,
  onTurn: turn,
}: {
  siteId: string;
  sectors: readonly Radio[];
  /** The chosen one. */
  sector: Radio | null;
  seen: Around;
  customersOf: (radioId: string) => SectorCustomer[];
  onTurn: (radioId: string, azimuthDeg: number) => void;
}) {
  const { world, data, draft, selection, select, summaries } = useDesk();
  const linkOf = useMemo(() => {
    const links = [...world.links.values()].filter(({ kind }) => kind === "access");
    return new Map(links.map((link) => [world.radios.get(link.bRadioId)?.subscriberId ?? "", link]));
  }, [world]);
  const own = sector ? ofSector(sector.id) : [];
  const tilts = useView<TiltRow>(
    data.world.plan.id,
    draft.patches,
    sector && own.length > 0 ? { kind: "tilts", radioId: sector.id } : null,
  );
  const headings = useView<HeadingRow>(
    data.world.plan.id,
    draft.patches,
    sector && sector.azimuthDeg !== null && own.length > 0 ? { kind: "headings", radioId: sector.id } : null,
  );
  const bestWay = { heading: headings.rows && bestHeading(headings.rows), tilt: tilts.rows && bestTilt(tilts.rows) };

  const people = (around?.neighbours ?? []).flatMap((one): OnRose[] => {
    const subscriber = world.subscribers.get(one.subscriberId);
    if (!subscriber) return [];
    const link = linkOf.get(subscriber.id);
    const isHere = link && world.radios.get(link.aRadioId)?.siteId === siteId;
    const isServed = link && summaries.get(link.id)?.served;
    const state: CustomerState = !link ? "none" : !isHere ? "elsewhere" : isServed ? "served" : "unserved";
    return [
      {
        subscriberId: subscriber.id,
        name: subscriber.name,
        bearingDeg: one.bearingDeg,
        distanceM: one.distanceM,
        state,
        pick: isHere ? { kind: "link", id: link.id } : { kind: "subscriber", id: subscriber.id },
        isChosen:
          (selection?.kind === "subscriber" && selection.id === subscriber.id) ||
          (selection?.kind === "link" && selection.id === link?.id),
      },
    ];
  });
  const headed = sectors.filter(({ azimuthDeg }) => azimuthDeg !== null);
  const addSector = () => {
    if (!sector) return;
    const id = crypto.randomUUID();
    const name = freeName(world.radios.values(), sector.name);
    const azimuthDeg = widestGapDeg(headed.map((one) => one.azimuthDeg!));
    draft.put(radioPatches(world, { ...sector, id, name, carrierId: id, address: "", azimuthDeg }));
    select({ kind: "radio", id });
  };
  const spaceEvenly = () => {
    const even = evenHeadings(headed.map((one) => one.azimuthDeg!));
    draft.put(headed.map(({ id }, i) => setPatch("radios", id, { azimuthDeg: even[i]! })));
  };
  const seams = seamsOf(
    headed.map(({ id, azimuthDeg, antennaModelId, polarization }) => ({
      radioId: id,
      azimuthDeg: azimuthDeg!,
      antenna: world.antennaModels.get(antennaModelId)!,
      polarization,
    })),
  );
  const nameOf = (id: string) => world.radios.get(id)?.name ?? "";
  const { usedDeg, farthestM } = spreadOf(own);
  return (
    <Group orientation="vertical" id="rose-elevation" className="min-h-0 flex-1">
      <Panel id="rose" defaultSize="64%" minSize="30%">
        <div className="flex h-full flex-col px-3 py-1">
          <div className="min-h-0 flex-1">
            {around ? (
              <Rose
                world={world}
                around={around}
                sectors={sectors}
                chosenId={sector?.id ?? null}
                people={people}
                customersOf={ofSector}
                headings={headings.rows}
                onTurn={turn}
                onSelect={select}
              />
            ) : (
              <p
                className="flex h-full items-center justify-center text-sm text-quiet"
                role={failed ? "alert" : undefined}
              >
                {failed ?? (data.shown === null ? "The plan is being worked out…" : "Looking round…")}
              </p>
            )}
          </div>
          <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
            <Legend />
            {sector && sector.azimuthDeg !== null && (
              <div className="w-32">
                <NumberField
                  label="Its heading"
                  unit="° true"
                  value={sector.azimuthDeg}
                  step={1}
                  min={0}
                  max={359}
                  decimals={0}
                  onChange={(azimuthDeg) => turn(sector.id, azimuthDeg)}
                />
              </div>
            )}
            {sector && (
              <Button className="text-xs" onClick={addSector}>
                Add one like it in the widest gap
              </Button>
            )}
            {headed.length > 1 && (
              <Button className="text-xs" onClick={spaceEvenly}>
                Space evenly
              </Button>
            )}
          </div>
          {around && around.neighbourCount > around.neighbours.length && (
            <p className="text-xs text-quiet">
              The nearest {around.neighbours.length} of {around.neighbourCount} within the circle are drawn.
            </p>
          )}
          {seams.length > 0 && (
            <p className="truncate text-xs text-quiet" data-seams>
              {seams
                .map(
                  ({ fromRadioId, toRadioId, bearingDeg, depthDb, overlapDeg }) =>
                    `${nameOf(fromRadioId)} | ${nameOf(toRadioId)}: seam at ${figure(bearingDeg, 0)}°, ${figure(-depthDb, 0)} dB, ${overlapDeg >= 0 ? `overlap ${figure(overlapDeg, 0)}°` : `gap ${figure(-overlapDeg, 0)}°`} at −6 dB`,
                )
                .join(" · ")}
            </p>
          )}
        </div>
      </Panel>
      <Separator
        aria-label="Divider between the two views"
        className="h-1.5 border-y border-rule bg-ground data-[separator=hover]:bg-clay focus-visible:bg-clay"
      />
      <Panel id="elevation" minSize="20%">
        {sector && own.length > 0 ? (
          <div className="flex h-full flex-col px-3 py-1">
            <p className="text-xs text-quiet" data-width-words>
              {sector.name}:{" "}
              {widthWords(world.antennaModels.get(sector.antennaModelId)!, sector.polarization, usedDeg, farthestM)}
              {headings.rows && sector.azimuthDeg !== null && <> {headingWords(headings.rows, sector.azimuthDeg)}</>}
              {tilts.rows && <> {tiltWords(tilts.rows, sector.tiltDownDeg ?? 0)}</>}
            </p>
            <div className="flex gap-1.5">
              {bestWay.heading && bestWay.heading.azimuthDeg !== sector.azimuthDeg && !headings.isStale && (
                <Button className="text-xs" onClick={() => turn(sector.id, bestWay.heading!.azimuthDeg)}>
                  Turn to {bestWay.heading.azimuthDeg}°
                </Button>
              )}
              {bestWay.tilt && bestWay.tilt.mechanicalDeg !== (sector.tiltDownDeg ?? 0) && !tilts.isStale && (
                <Button
                  className="text-xs"
                  onClick={() =>
                    draft.put([setPatch("radios", sector.id, { tiltDownDeg: bestWay.tilt!.mechanicalDeg })])
                  }
                >
                  Set the bracket {tiltText(bestWay.tilt.mechanicalDeg)}
                </Button>
              )}
            </div>
            <div className="min-h-0 flex-1">
              <Elevation
                end={endOf(world, sector.id)}
                customers={own}
                tilts={tilts.rows}
                chosenLinkId={selection?.kind === "link" ? selection.id : null}
                onTilt={(tiltDownDeg) => draft.put([setPatch("radios", sector.id, { tiltDownDeg })])}
                onSelect={select}
              />
            </div>
          </div>
        ) : (
          <p className="flex h-full items-center justify-center px-8 text-center text-sm text-quiet">
            {sector
              ? "Nobody is linked to this sector yet: link customers to it, and their angles stand here."
              : "No sector stands on this site yet. Add one with Add, or choose another site."}
          </p>
        )}
      </Panel>
    </Group>
  );
}
