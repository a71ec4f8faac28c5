import { CAUTION_NOTE, CAUTIONS, sendingWords, type CrewEnd } from "#core/install";
import { Printer } from "lucide-react";
import { useEffect, useState } from "react";
import { Link } from "react-router";
import { acceptText } from "../shared/acceptText";
import { readSheet } from "../crew/sheet.server";
import { ProcedureSteps } from "../stages/install/ProcedureSteps";
import { Button, buttonClass, figure, ProofMark, useFormats } from "../ui";
import type { Route } from "./+types/sheet";

export async function loader({ params }: Route.LoaderArgs) {
  return readSheet(params.planId, params.linkId);
}

/** Ticks that stay on this device until they are taken back: a roof has no signal. */
function useTicks(key: string): [Set<string>, (id: string) => void] {
  const [ticks, setTicks] = useState<Set<string>>(new Set());
  useEffect(() => {
    try {
      setTicks(new Set(JSON.parse(localStorage.getItem(key) ?? "[]") as string[]));
    } catch {
      setTicks(new Set());
    }
  }, [key]);
  const toggle = (id: string) =>
    setTicks((old) => {
      const next = new Set(old);
      if (!next.delete(id)) next.add(id);
      localStorage.setItem(key, JSON.stringify([...next]));
      return next;
    });
  return [ticks, toggle];
}

function Figure({ label, children, note }: { label: string; children: React.ReactNode; note?: React.ReactNode }) {
  return (
    <div className="border-b border-rule py-2">
      <dt className="text-sm text-quiet">{label}</dt>
      <dd className="figures text-2xl leading-tight font-semibold">{children}</dd>
      {note && <dd className="text-sm text-quiet">{note}</dd>}
    </div>
  );
}

function EndSheet({ end }: { end: CrewEnd }) {
  const formats = useFormats();
  const down = end.tiltDownDeg >= 0;
  return (
    <section aria-label={end.placeName}>
      <h2 className="text-lg font-semibold">{end.placeName}</h2>
      <p className="text-sm text-quiet">
        {end.radioModel} · {end.antennaModel} · {formats.place(end.place)}
      </p>
      <dl className="grid grid-cols-2 gap-x-4">
        <Figure
          label="Heading, compass"
          note={
            end.declinationDeg === null
              ? "no magnetic model for this date"
              : `declination ${figure(Math.abs(end.declinationDeg))}° ${end.declinationDeg < 0 ? "W" : "E"}`
          }
        >
          {end.headingMagneticDeg === null ? "–" : `${figure(end.headingMagneticDeg)}°`}
        </Figure>
        <Figure label="Heading, true">{figure(end.headingTrueDeg)}°</Figure>
        <Figure
          label="Tilt"
          note={
            end.bracketBeyondDeg > 0 ? (
              <strong className="text-blocked">
                {figure(end.bracketBeyondDeg)}° beyond the bracket ({figure(end.bracketDownDeg, 0)}° down,{" "}
                {figure(end.bracketUpDeg, 0)}° up)
              </strong>
            ) : (
              `bracket ${figure(end.bracketDownDeg, 0)}° down, ${figure(end.bracketUpDeg, 0)}° up`
            )
          }
        >
          {figure(Math.abs(end.tiltDownDeg))}° {down ? "down" : "up"}
        </Figure>
        <Figure label="Height on the mast">{formats.height(end.heightM)}</Figure>
        <Figure label={`Expect, ${end.chain}`} note={`accept ${acceptText(end.accept)} dBm`}>
          {figure(end.expectedChainDbm)} dBm
        </Figure>
        {end.expectedTotalDbm > end.expectedChainDbm && (
          <Figure label="All chains together">{figure(end.expectedTotalDbm)} dBm</Figure>
        )}
        {end.meterVolts && (
          <Figure
            label="Meter"
            note={`${end.meterVolts.stronger} is stronger; expected ${figure(end.meterVolts.expected, 2)} V`}
          >
            {figure(end.meterVolts.low, 2)} to {figure(end.meterVolts.high, 2)} V
          </Figure>
        )}
        <Figure label="Polarization">
          {end.polarization === "HV" ? "H and V" : end.polarization === "X45" ? "±45°" : end.polarization}
        </Figure>
        {end.sendsMHz === end.listensMHz ? (
          <Figure label="Channel" note={sendingWords(end)}>
            {end.sendsMHz} MHz
          </Figure>
        ) : (
          <>
            <Figure label="Sends on" note={sendingWords(end)}>
              {end.sendsMHz} MHz
            </Figure>
            <Figure label="Listens on" note="what the far end sends on">
              {end.listensMHz} MHz
            </Figure>
          </>
        )}
        <Figure label="Sweep at least">±{end.sweepDeg}°</Figure>
      </dl>
    </section>
  );
}

/** What the crew takes up: one end at a time, figures large, dangers first, and the order of the work. */
export default function SheetRoute({ loaderData: sheet }: Route.ComponentProps) {
  const formats = useFormats();
  const [side, setSide] = useState<"a" | "b">("b");
  const [ticks, toggle] = useTicks(`tejado-ticks-${sheet.planId}-${sheet.linkId}-${side}`);
  const confirmed = CAUTIONS.every(({ key }) => ticks.has(key));
  const base = `/plans/${sheet.planId}`;
  return (
    <main className="mx-auto max-w-xl px-4 pt-3 pb-24">
      <title>{`${sheet.names.join(" – ")} – crew sheet`}</title>
      <p className="no-print flex items-center justify-between text-sm">
        <Link to={`${base}/install?sel=link:${sheet.linkId}`} className="text-clay underline">
          Back to the desk
        </Link>
        <span className="flex gap-1.5">
          <Button onClick={() => window.print()}>
            <Printer size={14} aria-hidden="true" /> Print
          </Button>
          <a className={buttonClass()} href={`${base}/links/${sheet.linkId}/sheet.pdf`}>
            PDF
          </a>
        </span>
      </p>
      <h1 className="mt-2 text-xl font-semibold">
        {sheet.names[0]} – {sheet.names[1]}
      </h1>
      <p className="text-sm text-quiet">
        {sheet.planName} · {sheet.kind} · {formats.distance(sheet.distanceM)} · <ProofMark state={sheet.state} />
      </p>
      {!sheet.ends ? (
        <p role="alert" className="mt-4">
          This path has no answer yet, so there is nothing to aim by. Open it under Paths to see why.
        </p>
      ) : (
        <>
          <div role="tablist" aria-label="End" className="no-print mt-3 grid grid-cols-2 gap-1">
            {(["a", "b"] as const).map((one, i) => (
              <button
                key={one}
                type="button"
                role="tab"
                aria-selected={side === one}
                onClick={() => setSide(one)}
                className={`min-h-12 rounded border px-2 text-sm font-semibold ${side === one ? "border-clay bg-clay text-on-clay" : "border-rule bg-panel"}`}
              >
                I am at {sheet.names[i]}
              </button>
            ))}
          </div>
          <section aria-label="Before anyone climbs" className="mt-4 rounded border-2 border-blocked p-3">
            <h2 className="font-semibold">Before anyone climbs</h2>
            {sheet.ends[side].hazards && (
              <p className="my-1 font-medium text-blocked">⚠ Named at this site: {sheet.ends[side].hazards}</p>
            )}
            {sheet.ends[side].access && <p className="my-1 text-sm">The way there: {sheet.ends[side].access}</p>}
            {CAUTIONS.map(({ key, text }) => (
              <label key={key} className="flex min-h-11 items-start gap-3 py-1.5">
                <input
                  type="checkbox"
                  className="mt-0.5 size-6 shrink-0 accent-[var(--clay)]"
                  checked={ticks.has(key)}
                  onChange={() => toggle(key)}
                />
                <span>{text}</span>
              </label>
            ))}
            <p className="text-sm text-quiet">{CAUTION_NOTE}</p>
          </section>
          <div className="mt-4">
            <EndSheet end={sheet.ends[side]} />
          </div>
          <section className="mt-5">
            <h2 className="text-lg font-semibold">The order of the work</h2>
            <ProcedureSteps end={sheet.ends[side]} confirmed={confirmed} ticks={ticks} onTick={toggle} />
          </section>
          <Link
            to={`${base}/links/${sheet.linkId}/proof`}
            className="no-print fixed inset-x-4 bottom-4 mx-auto flex min-h-13 max-w-xl items-center justify-center rounded bg-clay font-semibold text-on-clay"
          >
            Write down what was measured
          </Link>
        </>
      )}
    </main>
  );
}
