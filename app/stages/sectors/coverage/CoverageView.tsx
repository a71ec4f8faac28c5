import { gridAround, gridExtent, learnedOver, sideOf, usualClient, type ClientKit } from "#core/coverage";
import { destination, type Place } from "#core/geodesy";
import { antennasFor } from "#core/kit";
import type { OwnNoise } from "#core/link";
import { setPatch, type Radio, type Site } from "#core/plan";
import { useEffect, useMemo, useState } from "react";
import { Group, Panel, Separator } from "react-resizable-panels";
import { CursorProvider, PlanUnderCursor } from "../../../desk/cursor";
import { useDesk } from "../../../desk/DeskContext";
import { onMap, useMapPlaces } from "../../../desk/mapPlaces";
import { useFetched, type Pair } from "../../../desk/profiles";
import { download } from "../../../ui/download";
import { Button, NumberField, SelectField } from "../../../ui";
import { CellAnswer, toldAt } from "./CellAnswer";
import { contourLines, contoursGeoJson, geotiffOf, overlayKmz, type ContourLine } from "./exports";
import { Legend } from "./Legend";
import { coveredBy, SCOPE_WORDS, SCOPES, type Scope } from "./scope";
import { useHeard } from "./useHeard";
import { useSectorsHeard } from "./useSectorsHeard";
import { figuresOf, isFigure, LAYER_WORDS, LAYERS, paint, SHARED_LAYERS, UNITS, type Layer } from "./paint";
import { useCells, type Covering } from "./useCells";
import { useLosses } from "./useLosses";

/** Cells are those of the usual terrain; a wider circle has coarser ones, so that its count stays the same. */
const LEAST_CELL_M = 30;
const MOST_RINGS = 400;
/** The same where many sites are drawn at once. */
const MOST_RINGS_EACH = 160;

/** What a sector gives in every cell round it, over the plan: levels, SNR, rates, and why not; a click asks about a cell. */
export function CoverageView({
  site,
  sector,
  sectors,
  heardBy,
}: {
  site: Site;
  sector: Radio;
  /** All of the site. */
  sectors: readonly Radio[];
  heardBy: ReadonlyMap<string, OwnNoise>;
}) {
  const { data, world, draft, selection, select, profiles } = useDesk();
  const { plan } = world;
  const [layer, setLayer] = useState<Layer>("rate");
  const [radiusKm, setRadiusKm] = useState(6);
  const usual = useMemo(() => usualClient(world, sector), [world, sector]);
  const [chosenKit, setChosenKit] = useState<Partial<ClientKit>>({});
  const antennas = antennasFor(world, "subscriber", sector.frequencyMHz);
  const kit = useMemo(() => usual && { ...usual, ...chosenKit }, [usual, chosenKit]);
  const radiusM = radiusKm * 1000;
  const [scope, setScope] = useState<Scope>("sector");
  const { sectors: covered, left } = useMemo(
    () => coveredBy(world, scope, sector, sectors),
    [world, scope, sector, sectors],
  );
  const { heard: heardOfAll, isWhole } = useSectorsHeard(scope === "plan", heardBy);
  const coverings = useMemo(
    (): Covering[] =>
      kit
        ? covered.flatMap((radio) => {
            const own = radio.id === sector.id ? kit : usualClient(world, radio);
            const heard = heardOfAll.get(radio.id) ?? null;
            const at = world.sites.get(radio.siteId ?? "");
            return own && at ? [{ radio, site: at, kit: { ...own, heightM: kit.heightM }, heard }] : [];
          })
        : [],
    [world, sector, covered, kit, heardOfAll],
  );
  const rxHeightM = kit?.heightM ?? 0;
  const asks = useMemo(
    () =>
      coverings.map(({ radio, site: at }) => {
        const middle = { latDeg: at.latDeg, lonDeg: at.lonDeg };
        const cellM = Math.max(LEAST_CELL_M, Math.ceil(radiusM / (scope === "plan" ? MOST_RINGS_EACH : MOST_RINGS)));
        const frequencyGHz = radio.frequencyMHz / 1000;
        return {
          ...{ middle, radiusM, cellM, frequencyGHz, rxHeightM },
          ...{ txHeightM: radio.heightM, kFactor: plan.kFactor, season: plan.season },
          learned: learnedOver(plan.learned, gridAround(middle, radiusM, cellM), frequencyGHz),
        };
      }),
    [coverings, plan, radiusM, rxHeightM, scope],
  );
  const version = data.terrain?.version ?? "none";
  const { losses, arrived, wanted, failed, stop, again } = useLosses(plan.id, version, data.terrain ? asks : NOTHING);
  const { heard: heardIn, isWhole: isHeardWhole, failed: hearingFailed, look } = useHeard();
  const isStale = arrived < wanted;
  const painted = useCells(world, coverings, losses, heardIn);
  useEffect(() => {
    if (painted) look(painted.rooms);
  }, [painted, look]);
  const coverage = useMemo(() => {
    if (!painted) return null;
    const canvas = document.createElement("canvas");
    paint(layer, painted, sideOf(painted.grid), canvas);
    return { extent: gridExtent(painted.grid), canvas };
  }, [layer, painted]);
  // Lines are drawn when a drag rests: they take longer than the cells.
  const [lines, setLines] = useState<readonly ContourLine[]>([]);
  useEffect(() => {
    setLines([]);
    if (!isFigure(layer) || !painted) return;
    const timer = setTimeout(() => setLines(contourLines(layer, painted)), LINES_REST_MS);
    return () => clearTimeout(timer);
  }, [layer, painted]);

  const [probe, setProbe] = useState<Place | null>(null);
  useEffect(() => setProbe(null), [sector.id]);
  const here = probe && painted ? toldAt(painted, probe) : null;
  // The cell is answered by whoever serves it best, by the chosen sector where nobody does.
  const asked = here && (coverings.find(({ radio }) => radio.id === (here.server ?? sector).id) ?? null);
  const from = asked?.site ?? site;
  const pairs = useMemo((): Pair[] => (probe ? [[from, probe]] : []), [from, probe]);
  useFetched(profiles, pairs);
  const profile = probe ? profiles.get([from, probe]) : undefined;
  const { sites, subscribers } = useMapPlaces(world);
  const { latDeg, lonDeg } = site;
  const middles = asks.map(({ middle }) => `${middle.latDeg} ${middle.lonDeg}`).join(" ");
  const lookAt = useMemo(
    () =>
      (middles === "" ? [[latDeg, lonDeg]] : pairsOf(middles.split(" ").map(Number))).flatMap(([lat, lon]) =>
        [0, 90, 180, 270].map((bearingDeg) =>
          destination({ latDeg: lat!, lonDeg: lon! }, bearingDeg, scope === "plan" ? radiusM / 4 : radiusM),
        ),
      ),
    [latDeg, lonDeg, radiusM, middles, scope],
  );
  const fileName = `${sector.name} ${LAYER_WORDS[layer]}`.replace(/[^\w-]+/g, "-").toLowerCase();
  const canExport = painted !== null && isFigure(layer);
  const takeOut = async (what: "tif" | "geojson" | "kmz") => {
    if (!painted || !coverage) return;
    if (what === "tif")
      download(`${fileName}.tif`, "image/tiff", await geotiffOf(painted.grid, figuresOf(layer, painted)));
    if (what === "geojson")
      download(`${fileName}.geojson`, "application/geo+json", contoursGeoJson(layer, painted, UNITS[layer]));
    if (what === "kmz")
      download(
        `${fileName}.kmz`,
        "application/zip",
        new Uint8Array(await overlayKmz(fileName, painted.grid, coverage.canvas)),
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
              <div className="w-48">
                <SelectField label="Shown" value={layer} onChange={(event) => setLayer(event.target.value as Layer)}>
                  {LAYERS.filter((one) => scope !== "sector" || !SHARED_LAYERS.includes(one)).map((one) => (
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
              <div className="w-28">
                <SelectField
                  label="Of"
                  value={scope}
                  onChange={(event) => {
                    setScope(event.target.value as Scope);
                    if (SHARED_LAYERS.includes(layer)) setLayer("rate");
                  }}
                >
                  {SCOPES.map((one) => (
                    <option key={one} value={one}>
                      {SCOPE_WORDS[one]}
                    </option>
                  ))}
                </SelectField>
              </div>
              <div className="w-22">
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
              <div className="w-22">
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
                <span
                  role="status"
                  className="text-quiet"
                  data-coverage-state={isStale || !isHeardWhole ? "working" : "whole"}
                >
                  {failed || hearingFailed || (!isStale && isHeardWhole)
                    ? ""
                    : isStale
                      ? `${arrived} of ${wanted} parts`
                      : "Interference at the customers…"}
                </span>
                {(failed ?? hearingFailed) && (
                  <span role="alert" className="text-blocked">
                    {failed ?? hearingFailed}
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
              {painted && <Legend layer={layer} painted={painted} />}
              {(left > 0 || !isWhole || plan.learned?.isOn || world.areas.size > 0) && (
                <p className="absolute top-2 left-12 rounded bg-panel/90 px-2 text-xs text-tight">
                  {left > 0 && `The ${covered.length} sectors with most customers; ${left} more are left out. `}
                  {plan.learned?.isOn && "What readings taught is counted. "}
                  {world.areas.size > 0 && "Outlines drawn by hand are not counted here: a click counts them. "}
                  {!isWhole && "What the sectors hear is not here yet: uplinks count thermal noise alone."}
                </p>
              )}
            </div>
          </div>
        </Panel>
        <Separator
          aria-label="Divider between plan and section"
          className="h-1.5 border-y border-rule bg-ground data-[separator=hover]:bg-clay focus-visible:bg-clay"
        />
        <Panel id="cell" minSize="18%">
          {probe && here && asked ? (
            <CellAnswer
              here={here}
              place={probe}
              asked={asked}
              profile={profile}
              isOfSeveral={scope !== "sector"}
              onHeight={(end, heightM) =>
                end === "a"
                  ? draft.put([setPatch("radios", asked.radio.id, { heightM })])
                  : setChosenKit({ ...chosenKit, heightM })
              }
            />
          ) : (
            <p className="flex h-full items-center justify-center px-8 text-center text-sm text-quiet">
              Click a cell for its section and tape. Diffraction is Bullington’s over ground and cover; where trees
              alone cut the line, it is what they take if that is less.
            </p>
          )}
        </Panel>
      </Group>
    </CursorProvider>
  );
}
const pairsOf = (numbers: readonly number[]) =>
  numbers.flatMap((one, i) => (i % 2 === 0 ? [[one, numbers[i + 1]]] : []));
const NO_LINKS: never[] = [];
const NOTHING: never[] = [];
const LINES_REST_MS = 350;
