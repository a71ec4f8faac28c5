import {
  clientEnd,
  COVERAGE_REASONS,
  gridExtent,
  REASON_WORDS,
  sideOf,
  usualClient,
  WEDGES,
  type ClientKit,
} from "#core/coverage";
import type { Place } from "#core/geodesy";
import { antennasFor } from "#core/kit";
import { answerLink, type OwnNoise } from "#core/link";
import { endOf, type Radio, type Site } from "#core/plan";
import { useEffect, useMemo, useState } from "react";
import { Group, Panel, Separator } from "react-resizable-panels";
import { CursorProvider, PlanUnderCursor, SectionUnderCursor } from "../desk/cursor";
import { useDesk } from "../desk/DeskContext";
import { onMap } from "../desk/PlanAndSection";
import { useFetched, type Pair } from "../desk/profiles";
import { download } from "../library/download";
import { TapeView } from "../tape/TapeView";
import { Button, figure, NumberField, SelectField, useFormats } from "../ui";
import { contourLines, contoursGeoJson, type ContourLine, geotiffOf, overlayKmz } from "./exports";
import { figuresOf, LAYER_WORDS, LAYERS, legendOf, paint, UNITS, type Layer, type Step } from "./paint";
import { useCells } from "./useCells";
import { useLosses } from "./useLosses";

/** Cells are those of the usual terrain; a wider circle has coarser ones, so that its count stays the same. */
const LEAST_CELL_M = 30;
const MOST_RINGS = 400;

function Swatch({ step: { colour, hatch } }: { step: Step }) {
  const [red, green, blue, alpha] = colour;
  const fill = `rgba(${red},${green},${blue},${(alpha / 255).toFixed(2)})`;
  return (
    <svg width="16" height="11" viewBox="0 0 16 11" aria-hidden="true" className="shrink-0 border border-rule">
      {hatch === undefined && <rect width="16" height="11" fill={fill} />}
      {hatch === "dots" &&
        [2, 6, 10, 14].flatMap((x) =>
          [2, 5.5, 9].map((y) => <circle key={`${x} ${y}`} cx={x} cy={y} r="1.1" fill={fill} />),
        )}
      {hatch === "strokes" && <path d="M-2 11L9 0M3 11L14 0M8 11L19 0" stroke={fill} strokeWidth="1.6" />}
      {hatch === "cross" && <path d="M0 11L11 0M6 11L17 0M0 0L11 11M6 0L17 11" stroke={fill} strokeWidth="1.4" />}
    </svg>
  );
}

/** What a sector gives in every cell round it, over the plan: levels, SNR, rates, and why not; a click asks about a cell. */
export function CoverageView({ site, sector, heard }: { site: Site; sector: Radio; heard: OwnNoise | null }) {
  const { data, world, selection, select, profiles } = useDesk();
  const formats = useFormats();
  const { plan } = world;
  const [layer, setLayer] = useState<Layer>("rate");
  const [radiusKm, setRadiusKm] = useState(6);
  const usual = useMemo(() => usualClient(world, sector), [world, sector]);
  const [chosenKit, setChosenKit] = useState<Partial<ClientKit>>({});
  const antennas = antennasFor(world, "subscriber", sector.frequencyMHz);
  const kit = useMemo(() => usual && { ...usual, ...chosenKit }, [usual, chosenKit]);
  const radiusM = radiusKm * 1000;
  const ask = kit && {
    middle: { latDeg: site.latDeg, lonDeg: site.lonDeg },
    txHeightM: sector.heightM,
    rxHeightM: kit.heightM,
    frequencyGHz: sector.frequencyMHz / 1000,
    kFactor: plan.kFactor,
    radiusM,
    cellM: Math.max(LEAST_CELL_M, Math.ceil(radiusM / MOST_RINGS)),
  };
  const version = data.terrain?.version ?? "none";
  const { losses, isStale, failed, stop, again } = useLosses(plan.id, version, data.terrain ? ask : null);
  const painted = useCells(world, sector, kit, heard, losses);
  const coverage = useMemo(() => {
    if (!losses || !painted) return null;
    const canvas = document.createElement("canvas");
    paint(layer, painted, sideOf(losses.grid), canvas);
    return { extent: gridExtent(losses.grid), canvas };
  }, [layer, losses, painted]);
  // Lines are drawn when a drag rests: they take longer than the cells.
  const [lines, setLines] = useState<readonly ContourLine[]>([]);
  useEffect(() => {
    setLines([]);
    if (layer === "why" || !losses || !painted) return;
    const timer = setTimeout(() => setLines(contourLines(layer, losses.grid, painted)), LINES_REST_MS);
    return () => clearTimeout(timer);
  }, [layer, losses, painted]);

  const [probe, setProbe] = useState<Place | null>(null);
  useEffect(() => setProbe(null), [sector.id]);
  const pairs = useMemo((): Pair[] => (probe ? [[site, probe]] : []), [site, probe]);
  useFetched(profiles, pairs);
  const profile = probe ? profiles.get([site, probe]) : undefined;
  const ends = useMemo(
    () =>
      probe && kit
        ? { a: endOf(world, sector.id), b: { ...clientEnd(world, sector, kit), place: probe, placeName: "Here" } }
        : null,
    [world, sector, kit, probe],
  );
  const answer =
    ends && profile
      ? answerLink({
          ...{ plan, kind: "access", foliageDepthM: null, ...ends, profile },
          ...(heard ? { heard: { a: heard, b: { dbm: null, radios: [] } } } : {}),
        })
      : null;
  const cellAt = (place: Place) => {
    if (!losses || !painted) return null;
    const { grid } = losses;
    const [west, , , north] = gridExtent(grid);
    const column = Math.floor((place.lonDeg - west) / grid.cellLonDeg);
    const row = Math.floor((north - place.latDeg) / grid.cellLatDeg);
    const side = sideOf(grid);
    if (column < 0 || row < 0 || column >= side || row >= side) return null;
    const cell = row * side + column;
    const { downDbm, snrDb, rateMbps, reason } = painted.cells;
    return {
      downDbm: downDbm[cell]!,
      snrDb: snrDb[cell]!,
      rateMbps: rateMbps[cell]!,
      reason: COVERAGE_REASONS[reason[cell]!]!,
    };
  };
  const here = probe && cellAt(probe);

  const sites = useMemo(
    () => [...world.sites.values()].map((one) => ({ id: one.id, name: one.name, place: one })),
    [world.sites],
  );
  const subscribers = useMemo(
    () => [...world.subscribers.values()].map((one) => ({ id: one.id, name: one.name, place: one, linked: true })),
    [world.subscribers],
  );
  const lookAt = useMemo(() => {
    const reachDeg = radiusM / 111_195;
    const wide = reachDeg / Math.cos((site.latDeg * Math.PI) / 180);
    return [
      { latDeg: site.latDeg - reachDeg, lonDeg: site.lonDeg - wide },
      { latDeg: site.latDeg + reachDeg, lonDeg: site.lonDeg + wide },
    ];
  }, [site.latDeg, site.lonDeg, radiusM]);
  const fileName = `${sector.name} ${LAYER_WORDS[layer]}`.replace(/[^\w-]+/g, "-").toLowerCase();
  const canExport = losses !== null && painted !== null && layer !== "why";
  const takeOut = async (what: "tif" | "geojson" | "kmz") => {
    if (!losses || !painted || !coverage) return;
    if (what === "tif")
      download(`${fileName}.tif`, "image/tiff", await geotiffOf(losses.grid, figuresOf(layer, painted)));
    if (what === "geojson")
      download(
        `${fileName}.geojson`,
        "application/geo+json",
        contoursGeoJson(layer, losses.grid, painted, UNITS[layer]),
      );
    if (what === "kmz")
      download(
        `${fileName}.kmz`,
        "application/vnd.google-earth.kmz",
        new Uint8Array(await overlayKmz(fileName, losses.grid, coverage.canvas)),
      );
  };
  if (!data.terrain)
    return (
      <p className="p-8 text-center text-sm text-quiet">
        No terrain yet: bring a file under Import. Without ground nothing can be said of whom a sector covers.
      </p>
    );
  if (!kit)
    return (
      <p className="p-8 text-center text-sm text-quiet">
        The library has no customer’s radio and antenna for this channel.
      </p>
    );
  return (
    <CursorProvider>
      <Group orientation="vertical" id="coverage-section" className="h-full">
        <Panel id="coverage" defaultSize="72%" minSize="30%">
          <div className="flex h-full flex-col">
            <div className="flex flex-wrap items-end gap-2 px-3 py-1.5">
              <div className="w-32">
                <SelectField label="Shown" value={layer} onChange={(event) => setLayer(event.target.value as Layer)}>
                  {LAYERS.map((one) => (
                    <option key={one} value={one}>
                      {LAYER_WORDS[one]}
                    </option>
                  ))}
                </SelectField>
              </div>
              <div className="w-32">
                <SelectField
                  label="Customer’s antenna"
                  value={kit.antennaModelId}
                  onChange={(event) => setChosenKit({ ...chosenKit, antennaModelId: event.target.value })}
                >
                  {antennas.map(({ id, maker, model }) => (
                    <option key={id} value={id}>
                      {maker} {model}
                    </option>
                  ))}
                </SelectField>
              </div>
              <div className="w-18">
                <NumberField
                  label="Its height"
                  unit="m"
                  value={kit.heightM}
                  step={0.5}
                  min={0}
                  max={200}
                  onChange={(heightM) => setChosenKit({ ...chosenKit, heightM })}
                />
              </div>
              <div className="w-18">
                <NumberField
                  label="Radius"
                  unit="km"
                  value={radiusKm}
                  step={1}
                  min={1}
                  max={40}
                  decimals={0}
                  onChange={setRadiusKm}
                />
              </div>
              <div className="ml-auto flex items-center gap-1 text-xs">
                <span role="status" className="text-quiet" data-coverage-state={isStale ? "working" : "whole"}>
                  {failed
                    ? ""
                    : isStale
                      ? `${losses && losses.arrived < WEDGES ? losses.arrived : 0} of ${WEDGES} parts`
                      : ""}
                </span>
                {failed && (
                  <span role="alert" className="text-blocked">
                    {failed}
                  </span>
                )}
                {isStale && !failed && (
                  <Button className="text-xs" onClick={stop}>
                    Stop
                  </Button>
                )}
                {(failed || isStale) && (
                  <Button className="text-xs" onClick={again}>
                    Again
                  </Button>
                )}
                {(["tif", "geojson", "kmz"] as const).map((what) => (
                  <Button key={what} className="text-xs" disabled={!canExport} onClick={() => void takeOut(what)}>
                    {{ tif: "GeoTIFF", geojson: "Contours", kmz: "KML" }[what]}
                  </Button>
                ))}
              </div>
            </div>
            <div className="relative min-h-0 flex-1">
              <PlanUnderCursor
                profile={profile}
                planId={plan.id}
                terrain={{ version: data.terrain.reliefVersion, extent: data.terrain.extent }}
                sites={sites}
                subscribers={subscribers}
                links={NO_LINKS}
                selected={onMap(selection)}
                onPick={select}
                coverage={coverage}
                contours={lines}
                lookAt={lookAt}
                onPoint={(place, pick) =>
                  pick?.kind === "site" || pick?.kind === "subscriber" ? select(pick) : setProbe(place)
                }
              />
              {painted && (
                <ul
                  aria-label="Legend"
                  className="absolute bottom-8 left-2 space-y-0.5 rounded border border-rule bg-panel/90 px-2 py-1 text-[11px]"
                >
                  {UNITS[layer] && <li className="text-quiet">{UNITS[layer]}, at least</li>}
                  {legendOf(layer, painted).map((step) => (
                    <li key={step.word} className="figures flex items-center gap-1.5">
                      <Swatch step={step} />
                      {step.word}
                    </li>
                  ))}
                </ul>
              )}
            </div>
          </div>
        </Panel>
        <Separator
          aria-label="Divider between plan and section"
          className="h-1.5 border-y border-rule bg-ground data-[separator=hover]:bg-clay focus-visible:bg-clay"
        />
        <Panel id="cell" minSize="18%">
          {probe && here ? (
            <div className="flex h-full min-h-0">
              <div
                className="w-64 shrink-0 overflow-y-auto border-r border-rule p-2 text-[13px]"
                tabIndex={0}
                role="region"
                aria-label="The cell"
              >
                <p className="font-semibold">{formats.place(probe)}</p>
                <p data-cell>
                  {here.reason === "unknown"
                    ? REASON_WORDS.unknown
                    : `${figure(here.downDbm, 0)} dBm on a chain, SNR ${figure(here.snrDb, 0)} dB, ${here.rateMbps > 0 ? `${figure(here.rateMbps, 0)} Mbit/s the weaker way` : REASON_WORDS[here.reason]}.`}
                </p>
                {answer?.path && (
                  <>
                    <p className="mt-1 text-xs text-quiet">The whole path answer from here, toward the customer:</p>
                    <TapeView tape={answer.path.aToB} caption="Toward the customer" />
                  </>
                )}
              </div>
              <div className="min-w-0 flex-1">
                {ends && profile && answer?.path ? (
                  <SectionUnderCursor
                    profile={profile}
                    path={answer.path}
                    a={ends.a}
                    b={ends.b}
                    kFactor={plan.kFactor}
                    onHeight={() => undefined}
                  />
                ) : (
                  <p className="flex h-full items-center justify-center text-sm text-quiet">
                    {answer?.problem ? "This path cannot be answered." : "Reading the profile…"}
                  </p>
                )}
              </div>
            </div>
          ) : (
            <p className="flex h-full items-center justify-center px-8 text-center text-sm text-quiet">
              Click a cell for its section and tape. Diffraction is Bullington’s over ground and cover; trees count as
              solid here, and a path through them may do better.
            </p>
          )}
        </Panel>
      </Group>
    </CursorProvider>
  );
}
const NO_LINKS: never[] = [];
const LINES_REST_MS = 350;
