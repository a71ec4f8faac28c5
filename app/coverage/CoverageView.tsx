import { gridExtent, sideOf, usualClient, type ClientKit } from "#core/coverage";
import { destination, type Place } from "#core/geodesy";
import { antennasFor } from "#core/kit";
import type { OwnNoise } from "#core/link";
import { setPatch, type Radio, type Site } from "#core/plan";
import { useEffect, useMemo, useState } from "react";
import { Group, Panel, Separator } from "react-resizable-panels";
import { CursorProvider, PlanUnderCursor } from "../desk/cursor";
import { useDesk } from "../desk/DeskContext";
import { onMap, useMapPlaces } from "../desk/PlanAndSection";
import { useFetched, type Pair } from "../desk/profiles";
import { download } from "../library/download";
import { Button, NumberField, SelectField } from "../ui";
import { CellAnswer, cellAt } from "./CellAnswer";
import { contourLines, contoursGeoJson, geotiffOf, overlayKmz, type ContourLine } from "./exports";
import { Legend } from "./Legend";
import { figuresOf, isFigure, LAYER_WORDS, LAYERS, paint, SHARED_LAYERS, UNITS, type Layer } from "./paint";
import { useCells, type Covering } from "./useCells";
import { useLosses } from "./useLosses";

/** Cells are those of the usual terrain; a wider circle has coarser ones, so that its count stays the same. */
const LEAST_CELL_M = 30;
const MOST_RINGS = 400;

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
  const [isWhole, setIsWhole] = useState(false);
  const coverings = useMemo(
    (): Covering[] =>
      kit
        ? (isWhole ? sectors : [sector]).flatMap((radio) => {
            const own = radio.id === sector.id ? kit : usualClient(world, radio);
            return own ? [{ radio, kit: { ...own, heightM: kit.heightM }, heard: heardBy.get(radio.id) ?? null }] : [];
          })
        : [],
    [world, sector, sectors, isWhole, kit, heardBy],
  );
  const asks = coverings.map(({ radio }) => ({
    middle: { latDeg: site.latDeg, lonDeg: site.lonDeg },
    txHeightM: radio.heightM,
    rxHeightM: kit?.heightM ?? 0,
    frequencyGHz: radio.frequencyMHz / 1000,
    kFactor: plan.kFactor,
    radiusM,
    cellM: Math.max(LEAST_CELL_M, Math.ceil(radiusM / MOST_RINGS)),
  }));
  const version = data.terrain?.version ?? "none";
  const {
    losses: all,
    arrived,
    wanted,
    failed,
    stop,
    again,
  } = useLosses(plan.id, version, data.terrain ? asks : NOTHING);
  const isStale = arrived < wanted;
  const painted = useCells(world, coverings, all);
  const losses = all.find((one) => one !== null) ?? null;
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
    if (!isFigure(layer) || !losses || !painted) return;
    const timer = setTimeout(() => setLines(contourLines(layer, losses.grid, painted)), LINES_REST_MS);
    return () => clearTimeout(timer);
  }, [layer, losses, painted]);

  const [probe, setProbe] = useState<Place | null>(null);
  useEffect(() => setProbe(null), [sector.id]);
  const pairs = useMemo((): Pair[] => (probe ? [[site, probe]] : []), [site, probe]);
  useFetched(profiles, pairs);
  const profile = probe ? profiles.get([site, probe]) : undefined;
  const here = probe && losses && painted ? cellAt(losses.grid, painted, probe) : null;
  // The cell is answered by whoever serves it best, by the chosen sector where nobody does.
  const asked = here && (coverings.find(({ radio }) => radio.id === (here.server ?? sector).id) ?? null);
  const { sites, subscribers } = useMapPlaces(world);
  const { latDeg, lonDeg } = site;
  const lookAt = useMemo(
    () => [0, 90, 180, 270].map((bearingDeg) => destination({ latDeg, lonDeg }, bearingDeg, radiusM)),
    [latDeg, lonDeg, radiusM],
  );
  const fileName = `${sector.name} ${LAYER_WORDS[layer]}`.replace(/[^\w-]+/g, "-").toLowerCase();
  const canExport = losses !== null && painted !== null && isFigure(layer);
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
        "application/zip",
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
                  {LAYERS.filter((one) => isWhole || !SHARED_LAYERS.includes(one)).map((one) => (
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
              {sectors.length > 1 && (
                <div className="w-28">
                  <SelectField
                    label="Of"
                    value={isWhole ? "site" : "sector"}
                    onChange={(event) => {
                      setIsWhole(event.target.value === "site");
                      if (SHARED_LAYERS.includes(layer)) setLayer("rate");
                    }}
                  >
                    <option value="sector">this sector</option>
                    <option value="site">the whole site</option>
                  </SelectField>
                </div>
              )}
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
                  {failed || !isStale ? "" : `${arrived} of ${wanted} parts`}
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
              {painted && <Legend layer={layer} painted={painted} />}
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
              isOfSeveral={isWhole}
              onHeight={(end, heightM) =>
                end === "a"
                  ? draft.put([setPatch("radios", asked.radio.id, { heightM })])
                  : setChosenKit({ ...chosenKit, heightM })
              }
            />
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
const NOTHING: never[] = [];
const LINES_REST_MS = 350;
