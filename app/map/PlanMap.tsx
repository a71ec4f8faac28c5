import { inverseGeodesic, type Place } from "#core/geodesy";
import { Crosshair, Maximize, Ruler } from "lucide-react";
import { useEffect, useLayoutEffect, useRef, useState, type KeyboardEvent } from "react";
import { Button, STATE_LINES, useFormats, usePreferences } from "../ui";
import { HEAT_GRADES, HEAT_WORDS, heatMarkSvg } from "./heatMarks";
import type { MapView } from "./mapView";
import type { HeatMark, Outlining, PlanMapProps } from "./types";

/** What the marks mean that are on the plan now. */
function HeatLegend({ heat }: { heat: readonly HeatMark[] }) {
  const rings = heat[0]!.isAround;
  const items = rings
    ? (["clear", "tight", "blocked"] as const).map((state) => ({
        word: STATE_LINES[state].word,
        mark: (
          <circle
            r="4.6"
            fill="none"
            stroke={STATE_LINES[state].colour}
            strokeWidth="1.8"
            strokeDasharray={state === "clear" ? "" : state === "tight" ? "4 2" : "1 2"}
          />
        ),
      }))
    : HEAT_GRADES.map((grade) => ({
        word: HEAT_WORDS[grade],
        mark: <g dangerouslySetInnerHTML={{ __html: heatMarkSvg(grade, (colour) => colour) }} />,
      }));
  return (
    <ul
      aria-label="Marks on the plan"
      className="absolute bottom-8 left-2 space-y-0.5 rounded border border-rule bg-panel/90 px-2 py-1 text-[11px]"
    >
      {items.map(({ word, mark }) => (
        <li key={word} className="flex items-center gap-1.5">
          <svg width="12" height="12" viewBox="-6 -6 12 12" aria-hidden="true">
            {mark}
          </svg>
          {word}
        </li>
      ))}
    </ul>
  );
}

/** The plan from above, on the plan's own terrain. The canvas is made in the browser only. */
export function PlanMap(props: PlanMapProps) {
  const holder = useRef<HTMLDivElement>(null);
  const view = useRef<MapView | null>(null);
  const latest = useRef(props);
  latest.current = props;
  const formats = useFormats();
  const [hover, setHover] = useState<Place | null>(null);
  const [hoverName, setHoverName] = useState<string | null>(null);
  const [measuring, setMeasuring] = useState(false);
  const [measured, setMeasured] = useState<{ from: Place; to: Place | null } | null>(null);
  const [ready, setReady] = useState(false);
  const measuringRef = useRef(measuring);
  measuringRef.current = measuring;

  const { tileUrl, tileAttribution } = usePreferences();
  const tiles = useRef<{ url: string; attribution: string } | null>(null);
  tiles.current = tileUrl ? { url: tileUrl, attribution: tileAttribution } : null;
  const planId = props.planId;
  const version = props.terrain?.version ?? null;
  useEffect(() => {
    let stopped = false;
    let made: MapView | null = null;
    void import("./mapView").then(async ({ createMapView }) => {
      if (stopped || !holder.current) return;
      const { terrain, sites, subscribers } = latest.current;
      made = await createMapView(
        holder.current,
        planId,
        terrain,
        [...sites, ...subscribers].map(({ place }) => place),
        {
          pick: (pick) => latest.current.onPick(pick),
          hover: (place, name) => {
            setHover(place);
            setHoverName(name);
          },
          pathHover: (share) => latest.current.onPathHover(share),
          measureAt: (place, final) =>
            setMeasured((old) =>
              old && !final && old.from
                ? { from: old.from, to: place }
                : final && old && old.to
                  ? { from: place, to: null }
                  : { from: old?.from ?? place, to: old ? place : null },
            ),
          isMeasuring: () => measuringRef.current,
          reshaped: (id, rings) => latest.current.onReshaped?.(id, rings),
          isPointing: () => Boolean(latest.current.onPoint),
          pointAt: (place, pick) => latest.current.onPoint?.(place, pick),
          menuAt: (place, at, pick) => latest.current.onMenu?.({ place, at, pick }),
          moved: (pick, place) => latest.current.onMoved?.(pick, place),
        },
        tiles.current,
      );
      if (stopped) return made.stop();
      view.current = made;
      setReady(true);
    });
    return () => {
      stopped = true;
      made?.stop();
      view.current = null;
      setReady(false);
    };
  }, [planId, version, tileUrl]);

  const { sites, subscribers, links, selected, cursor } = props;
  useEffect(() => {
    if (ready) view.current?.draw({ sites, subscribers, links, selected });
  }, [ready, sites, subscribers, links, selected]);
  const { fitsPlaces } = props;
  useEffect(() => {
    if (ready && fitsPlaces) view.current?.fitPlaces([...sites, ...subscribers].map(({ place }) => place));
  }, [ready, fitsPlaces, sites, subscribers]);
  const { areas, overlays, density } = props;
  const draws = Boolean(props.outlining);
  useEffect(() => {
    if (ready) view.current?.drawGround({ areas, overlays, density, selected });
  }, [ready, areas, overlays, density, selected]);
  // Before the page is seen: whoever reads that corners are clicked may click the first at once.
  useLayoutEffect(() => {
    if (!ready) return;
    const outlining: Outlining = {
      onCorners: (count, finish) => latest.current.outlining?.onCorners(count, finish),
      onDrawn: (ring) => latest.current.outlining?.onDrawn(ring),
    };
    view.current?.setOutlining(draws ? outlining : null);
  }, [ready, draws]);
  const { outsiders, fronts } = props;
  useEffect(() => {
    if (ready) view.current?.showFronts(fronts ?? []);
  }, [ready, fronts]);
  useEffect(() => {
    if (ready) view.current?.showOutsiders(outsiders ?? []);
  }, [ready, outsiders]);
  const { coverage, contours } = props;
  useEffect(() => {
    if (ready) view.current?.showContours(contours ?? []);
  }, [ready, contours]);
  useEffect(() => {
    if (ready) view.current?.showCoverage(coverage ?? null);
  }, [ready, coverage]);
  const { heat, lookAt } = props;
  useEffect(() => {
    if (ready && lookAt) view.current?.fitPlaces([...lookAt]);
  }, [ready, lookAt]);
  useEffect(() => {
    if (ready) view.current?.showHeat(heat ?? []);
  }, [ready, heat]);
  useEffect(() => {
    if (ready) view.current?.showCursor(cursor);
  }, [ready, cursor]);
  useEffect(() => {
    if (ready) view.current?.showMeasure(measured?.to ? [measured.from, measured.to] : null);
  }, [ready, measured]);

  const startMeasuring = (on: boolean) => {
    setMeasuring(on);
    setMeasured(null);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const map = view.current;
    if (!map || event.ctrlKey || event.metaKey) return;
    if (event.key === "Enter") {
      event.preventDefault();
      event.stopPropagation();
      if (measuring)
        setMeasured((old) =>
          old && !old.to ? { from: old.from, to: map.centre() } : { from: map.centre(), to: null },
        );
      else if (props.onPoint) map.pointCentre();
      else map.pickCentre();
    } else if ((event.key === "F10" && event.shiftKey) || event.key === "ContextMenu") {
      event.preventDefault();
      event.stopPropagation();
      map.menuAtCentre();
    } else if (event.key.toLowerCase() === "m") {
      event.stopPropagation();
      startMeasuring(!measuring);
    } else if (event.key === "Escape" && measuring) {
      event.preventDefault();
      event.stopPropagation();
      startMeasuring(false);
    }
  };
  const span = measured?.to ? inverseGeodesic(measured.from, measured.to) : null;
  return (
    <div className="relative h-full w-full bg-ground" onKeyDown={onKeyDown}>
      <div
        ref={holder}
        tabIndex={0}
        data-ready={ready}
        role="application"
        aria-label="Plan. Arrow keys move it, plus and minus zoom, Enter picks what stands at the centre, M measures, Shift F10 asks about the centre."
        className="peer absolute inset-0 outline-none focus-visible:ring-2 focus-visible:ring-clay focus-visible:ring-inset"
      />
      <Crosshair
        aria-hidden="true"
        size={20}
        className="pointer-events-none absolute top-1/2 left-1/2 hidden -translate-x-1/2 -translate-y-1/2 text-clay peer-focus-visible:block"
      />
      {props.over}
      <div className="absolute top-2 right-2 flex gap-1">
        {props.tools}
        <Button
          aria-pressed={measuring}
          onClick={() => startMeasuring(!measuring)}
          className={measuring ? "border-clay text-clay" : ""}
          title="Measure a distance (M)"
        >
          <Ruler size={15} aria-hidden="true" /> Measure
        </Button>
        <Button onClick={() => view.current?.fit()} title="Show everything">
          <Maximize size={15} aria-hidden="true" />
          <span className="sr-only">Show everything</span>
        </Button>
      </div>
      {measuring && (
        <p
          role="status"
          className="figures absolute top-2 left-2 rounded border border-rule bg-panel px-2 py-1 text-xs"
        >
          {span
            ? `${formats.distance(span.distanceM)} · ${span.azimuthDeg.toFixed(1)}° true · back ${span.backAzimuthDeg.toFixed(1)}°`
            : measured
              ? "Choose the other end"
              : "Choose the first end"}
        </p>
      )}
      {heat && heat.length > 0 && <HeatLegend heat={heat} />}
      {!props.terrain && (
        <p className="absolute inset-x-0 top-1/3 text-center text-sm text-quiet">
          No terrain yet. Bring a file under Import; until then no path can be answered.
        </p>
      )}
      <p
        className="figures pointer-events-none absolute right-2 bottom-1 rounded bg-panel/85 px-1.5 text-[11px] text-ink"
        aria-hidden="true"
      >
        {hoverName ? `${hoverName} · ` : ""}
        {hover ? formats.place(hover) : ""}
      </p>
    </div>
  );
}
