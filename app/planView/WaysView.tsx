import { linkEnds, type Link } from "#core/plan";
import { WORK_EUR, type SearchResult, type WayOut } from "#core/search";
import { useEffect, useState } from "react";
import { useDesk } from "../desk/DeskContext";
import { SearchState } from "../ask/SearchState";
import { useSearch } from "../ask/useSearch";
import { Button, euros, NumberField, StateStroke } from "../ui";

const KIND_WORDS: Record<WayOut["kind"], string> = {
  height: "height",
  kit: "kit",
  elsewhere: "sector",
  channel: "channel",
  band: "band",
  move: "move",
  relaySite: "relay",
  relayPeak: "new relay",
};

function Way({ way, link }: { way: WayOut; link: Link }) {
  const { draft, select } = useDesk();
  const relink = way.patches.find(({ kind, remove }) => kind === "links" && !remove);
  return (
    <li className="flex items-start gap-3 border-t border-rule py-1.5">
      <StateStroke state={way.outcome.state} />
      <div className="min-w-0 flex-1 text-[13px]">
        <p>
          <span className="mr-1.5 rounded border border-rule px-1 text-[11px] text-quiet">{KIND_WORDS[way.kind]}</span>
          <span className="font-medium">{way.label}</span>
        </p>
        <p className="figures text-xs text-quiet">
          {way.outcome.served ? "" : "does not serve yet: "}
          {way.effect}
          {WORK_EUR[way.kind] > 0 && `; work taken as ${euros(WORK_EUR[way.kind])}`}
        </p>
        {way.caution && <p className="text-xs text-tight">{way.caution}</p>}
      </div>
      <Button
        className="px-2 py-0.5 text-xs"
        aria-label={`Take in hand: ${way.label}`}
        onClick={() => {
          draft.put(way.patches);
          select({ kind: "link", id: relink?.id ?? link.id });
        }}
      >
        Take in hand
      </Button>
    </li>
  );
}

/** Searches for whatever would make a link work: what to search, how it stands, and what was found, best first. */
export function WaysView({ link }: { link: Link }) {
  const { data, world, draft, setHeat, lookAt } = useDesk();
  const planId = data.world.plan.id;
  const { a, b } = linkEnds(world, link);
  const [moveAM, setMoveAM] = useState(0);
  const [moveBM, setMoveBM] = useState(200);
  const [mastM, setMastM] = useState(6);
  const [heatOf, setHeatOf] = useState<"a" | "b">("b");
  const { job, result, failed, start: begin, stop } = useSearch<SearchResult>(planId);
  const heat = result && (heatOf === "a" ? result.heatA : result.heatB);
  useEffect(() => {
    setHeat(heat && heat.length > 0 ? heat : null);
    return () => setHeat(null);
  }, [heat, setHeat]);
  const running = job?.state === "running";
  const start = () => {
    setHeatOf(moveBM > 0 ? "b" : "a");
    return begin({ kind: "waysOut", linkId: link.id, moveAM, moveBM, mastM }, draft.patches);
  };
  const radius = (label: string, value: number, put: (value: number) => void) => (
    <div className="w-40">
      <NumberField label={label} unit="m" value={value} step={50} min={0} max={5000} decimals={0} onChange={put} />
    </div>
  );
  return (
    <div className="p-3">
      <div className="mb-2 flex flex-wrap items-end gap-3">
        {radius(`Move ${a.placeName} within`, moveAM, setMoveAM)}
        {radius(`Move ${b.placeName} within`, moveBM, setMoveBM)}
        <div className="w-36">
          <NumberField
            label="New relay’s mast"
            unit="m"
            value={mastM}
            step={1}
            min={0}
            max={60}
            decimals={0}
            onChange={setMastM}
          />
        </div>
        <Button look="primary" disabled={running} onClick={() => void start()}>
          {result ? "Search again" : "Search ways out"}
        </Button>
      </div>
      {!result && (
        <p className="mb-2 text-xs text-quiet">
          Tries heights within the structures, power, antennas, radios, bands, channels, other sectors, the moves
          allowed above (0 keeps an end), and relays over every other site and, with a mast, over high ground.
        </p>
      )}
      <SearchState job={job} failed={failed} onStop={stop} />
      {result && (
        <>
          <p role="status" className="text-xs text-quiet">
            {job?.message}.
          </p>
          {heat && heat.length > 0 && (
            <div className="my-1 flex flex-wrap items-center gap-3 text-xs">
              <span>On the plan, the path with one end moved:</span>
              {(["a", "b"] as const).map((end) =>
                result[end === "a" ? "heatA" : "heatB"].length > 0 ? (
                  <label key={end} className="flex items-center gap-1">
                    <input type="radio" name="heat" checked={heatOf === end} onChange={() => setHeatOf(end)} />
                    {end === "a" ? a.placeName : b.placeName}:{" "}
                    {result[end === "a" ? "heatA" : "heatB"].filter(({ state }) => state === "clear").length} of{" "}
                    {result[end === "a" ? "heatA" : "heatB"].length} places clear
                  </label>
                ) : null,
              )}
              <Button className="px-1.5 py-0 text-xs" onClick={() => lookAt(heat)}>
                Look closer
              </Button>
            </div>
          )}
          {result.ways.length === 0 ? (
            <p className="text-sm">
              Nothing that was tried makes this link better. A wider move, a taller relay, or kit that the library lacks
              could.
            </p>
          ) : (
            <ol>
              {result.ways.map((way) => (
                <Way key={way.label} way={way} link={link} />
              ))}
            </ol>
          )}
        </>
      )}
    </div>
  );
}
