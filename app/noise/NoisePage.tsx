import type { ChannelRow } from "#core/findings";
import { putPatch, removePatch, type Plan, type Scan } from "#core/plan";
import { toast } from "sonner";
import { readScans } from "#formats/scans";
import type { RowError } from "#formats/places";
import { useState } from "react";
import { Form, useNavigation, useRevalidator } from "react-router";
import { ErrorTable } from "../import/ErrorTable";
import { PlanFrame } from "../frame/PlanFrame";
import { keepPatches } from "../keep/keepPatches";
import { Button, figure, SelectField, TextField } from "../ui";
import { ScanChart, scanLabel } from "./ScanChart";

const MOST_COMPARED = 6;

interface NoiseProps {
  plan: Plan;
  revision: number;
  sites: { id: string; name: string }[];
  scans: Scan[];
  channels: ChannelRow[];
  result: { ok: boolean; message: string } | null;
}

/** Scans from a file, from typed rows or from a scanner, compared over time and heading, and what they say of our channels. */
export function NoisePage({ plan, revision, sites, scans, channels, result }: NoiseProps) {
  const [siteId, setSiteId] = useState(scans[0]?.siteId ?? sites[0]?.id ?? "");
  const [compared, setCompared] = useState<readonly string[]>([]);
  const { revalidate } = useRevalidator();
  const here = scans.filter((scan) => scan.siteId === siteId);
  const shown = compared.length > 0 ? here.filter(({ id }) => compared.includes(id)) : here.slice(0, 2);
  const toggle = (id: string) =>
    setCompared((old) => (old.includes(id) ? old.filter((one) => one !== id) : [...old, id].slice(-MOST_COMPARED)));
  const remove = async (scan: Scan) => {
    const what = `Took out the scan ${scanLabel(scan)}`;
    const { ok, message } = await keepPatches(plan.id, revision, [removePatch("scans", scan.id)], what);
    if (!ok) toast.error(message, { duration: 12_000 });
    await revalidate();
  };
  return (
    <PlanFrame>
      <main className="mx-auto w-full max-w-6xl px-6 py-5">
        <title>{`Noise – ${plan.name}`}</title>
        <h1 className="mb-3 text-xl font-semibold">Noise</h1>
        {sites.length === 0 && <p className="text-sm text-quiet">Scans are taken at sites; the plan has none yet.</p>}
        {result && (
          <p
            role={result.ok ? "status" : "alert"}
            className={`mb-3 rounded border p-2 text-sm font-medium ${result.ok ? "border-clear" : "border-blocked"}`}
          >
            {result.message}
          </p>
        )}
        <div className="grid gap-4 lg:grid-cols-[1fr_20rem]">
          <section aria-label="Scans" className="min-w-0">
            <div className="mb-2 flex items-end gap-3">
              <div className="w-56">
                <SelectField
                  label="Site"
                  value={siteId}
                  onChange={(event) => {
                    setSiteId(event.target.value);
                    setCompared([]);
                  }}
                >
                  {sites.map(({ id, name }) => (
                    <option key={id} value={id}>
                      {name} ({scans.filter((scan) => scan.siteId === id).length})
                    </option>
                  ))}
                </SelectField>
              </div>
              <p className="pb-1 text-xs text-quiet">Choose up to {MOST_COMPARED} scans to hold against each other.</p>
            </div>
            {shown.length > 0 ? (
              <ScanChart scans={shown} />
            ) : (
              <p className="rounded border border-dashed border-rule p-6 text-center text-sm text-quiet">
                Nobody has listened here yet. Bring a file, type rows in, or ask a scanner.
              </p>
            )}
            <div
              className="max-h-56 overflow-y-auto rounded border border-rule bg-panel"
              tabIndex={0}
              role="region"
              aria-label="Scans of the site"
            >
              <table className="w-full text-[13px]">
                <thead>
                  <tr className="text-left text-xs text-quiet">
                    <th className="px-2 font-normal">Compare</th>
                    <th className="font-normal">Heading, polarization, time</th>
                    <th className="text-right font-normal">From – to, MHz</th>
                    <th className="text-right font-normal">Strongest</th>
                    <th className="pl-3 font-normal">Source</th>
                    <th>
                      <span className="sr-only">Remove</span>
                    </th>
                  </tr>
                </thead>
                <tbody>
                  {here.map((scan) => (
                    <tr key={scan.id} className="border-t border-rule">
                      <td className="px-2">
                        <input
                          type="checkbox"
                          aria-label={`Compare ${scanLabel(scan)}`}
                          checked={shown.includes(scan)}
                          onChange={() => toggle(scan.id)}
                          className="accent-[var(--clay)]"
                        />
                      </td>
                      <td className="figures text-xs">{scanLabel(scan)}</td>
                      <td className="figures text-right text-xs">
                        {scan.frequenciesMHz[0]!.toFixed(0)} – {scan.frequenciesMHz.at(-1)!.toFixed(0)}
                      </td>
                      <td className="figures text-right text-xs">
                        {figure(scan.levelsDbm.reduce((most, level) => Math.max(most, level), -999))} dBm
                      </td>
                      <td className="pl-3 text-xs text-quiet">{scan.source}</td>
                      <td className="pr-2 text-right">
                        <Button className="px-1.5 py-0 text-xs" onClick={() => void remove(scan)}>
                          Take out
                        </Button>
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
            <h2 className="mt-4 mb-1 text-sm font-semibold">Our channels, noisiest first</h2>
            <table className="w-full rounded border border-rule bg-panel text-[13px]">
              <thead>
                <tr className="text-left text-xs text-quiet">
                  <th className="px-2 font-normal">Radio</th>
                  <th className="font-normal">Site</th>
                  <th className="text-right font-normal">Channel</th>
                  <th className="text-right font-normal">Heading</th>
                  <th className="text-right font-normal">Heard in it</th>
                  <th className="px-2 text-right font-normal">Floor on the tape</th>
                </tr>
              </thead>
              <tbody>
                {channels.map((row) => (
                  <tr key={row.radioId} className="border-t border-rule">
                    <td className="px-2">{row.radio}</td>
                    <td>{row.site}</td>
                    <td className="figures text-right text-xs">
                      {row.frequencyMHz} / {row.widthMHz} MHz
                    </td>
                    <td className="figures text-right text-xs">{figure(row.headingDeg, 0)}°</td>
                    <td className="figures text-right text-xs">
                      {row.powerDbm === null ? "not scanned" : `${figure(row.powerDbm)} dBm`}
                    </td>
                    <td className="figures px-2 text-right text-xs">
                      {row.floorDbm === null ? "–" : `${figure(row.floorDbm)} dBm`}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </section>
          <div className="space-y-4">
            <ScannerForm siteId={siteId} isDemo={plan.isDemo} />
            <ScanFile plan={plan} revision={revision} sites={sites} siteId={siteId} />
          </div>
        </div>
      </main>
    </PlanFrame>
  );
}

function ScannerForm({ siteId, isDemo }: { siteId: string; isDemo: boolean }) {
  const busy = useNavigation().state !== "idle";
  return (
    <Form method="post" className="space-y-2 rounded border border-rule bg-panel p-3">
      <h2 className="text-sm font-semibold">Ask a scanner</h2>
      <p className="text-xs text-quiet">
        {isDemo
          ? "Without an address the stand-in answers, as this is a demo: it hears the plan's own transmitters over its terrain, and outsiders that it invents."
          : "A scanner on this machine answers at its address. The simulation hears nothing but the plan's own transmitters over its terrain: no measurement, only practice."}
      </p>
      <input type="hidden" name="siteId" value={siteId} />
      <TextField label="Headings" name="headings" defaultValue="0 90 180 270" unit="°" />
      <div className="grid grid-cols-2 gap-2">
        <TextField label="From" name="fromMHz" defaultValue="5150" unit="MHz" />
        <TextField label="To" name="toMHz" defaultValue="5875" unit="MHz" />
        <TextField label="Bin" name="binKHz" defaultValue="1000" unit="kHz" />
        <TextField label="Opening" name="beamwidthDeg" defaultValue="60" unit="°" />
        <TextField label="Gain" name="gainDbi" defaultValue="12" unit="dBi" />
      </div>
      <TextField
        label="Address, on this machine"
        name="scannerUrl"
        placeholder={isDemo ? "stand-in" : "http://127.0.0.1:…"}
      />
      {!isDemo && (
        <label className="flex items-center gap-2 text-xs">
          <input type="checkbox" name="standIn" className="accent-[var(--clay)]" />
          Simulate it instead
        </label>
      )}
      <Button type="submit" look="primary" disabled={busy || siteId === ""}>
        {busy ? "Listening…" : "Scan"}
      </Button>
    </Form>
  );
}

function ScanFile({
  plan,
  revision,
  sites,
  siteId,
}: Pick<NoiseProps, "plan" | "revision" | "sites"> & { siteId: string }) {
  const { revalidate } = useRevalidator();
  const [typed, setTyped] = useState("");
  const [heading, setHeading] = useState("0");
  const [polarization, setPolarization] = useState<"H" | "V">("V");
  const [gain, setGain] = useState("0");
  const [opening, setOpening] = useState("360");
  const [bin, setBin] = useState("1000");
  const [message, setMessage] = useState<{ ok: boolean; text: string } | null>(null);
  const [errors, setErrors] = useState<RowError[]>([]);
  const take = async (bytes: Uint8Array, source: string) => {
    const number = (text: string) => Number(text.replace(",", "."));
    const read = readScans(
      bytes,
      {
        planId: plan.id,
        siteId,
        headingDeg: number(heading),
        beamwidthDeg: number(opening),
        gainDbi: number(gain),
        polarization,
        scannedAt: new Date().toISOString(),
        source: source.slice(0, 120),
        binKHz: number(bin),
      },
      new Map(sites.map(({ id, name }) => [name.toLowerCase(), id])),
      () => crypto.randomUUID(),
    );
    setErrors(read.errors);
    if (read.scans.length === 0)
      return setMessage({ ok: false, text: `${source}: no scan could be read. Nothing was kept.` });
    const answer = await keepPatches(
      plan.id,
      revision,
      read.scans.map((row) => putPatch("scans", row)),
      `Imported ${read.scans.length} scans from ${source}`,
    );
    setMessage({ ok: answer.ok, text: answer.ok ? `Kept ${read.scans.length} scans from ${source}.` : answer.message });
    await revalidate();
  };
  return (
    <section className="space-y-2 rounded border border-rule bg-panel p-3" aria-label="Scan from a file">
      <h2 className="text-sm font-semibold">From a file or typed in</h2>
      <p className="text-xs text-quiet">
        CSV with frequency (MHz) and level (dBm); site, heading, polarization, time and bin (kHz) where it has them,
        else as here.
      </p>
      <div className="grid grid-cols-2 gap-2">
        <TextField label="Heading" unit="°" value={heading} onChange={(event) => setHeading(event.target.value)} />
        <SelectField
          label="Polarization"
          value={polarization}
          onChange={(event) => setPolarization(event.target.value as "H" | "V")}
        >
          <option>V</option>
          <option>H</option>
        </SelectField>
        <TextField label="Antenna gain" unit="dBi" value={gain} onChange={(event) => setGain(event.target.value)} />
        <TextField label="Opening" unit="°" value={opening} onChange={(event) => setOpening(event.target.value)} />
        <TextField label="Bin" unit="kHz" value={bin} onChange={(event) => setBin(event.target.value)} />
      </div>
      <input
        type="file"
        aria-label="Scan file"
        accept=".csv,.txt"
        onChange={async (event) => {
          const file = event.target.files?.[0];
          if (file) await take(new Uint8Array(await file.arrayBuffer()), file.name);
        }}
        className="block w-full text-xs file:mr-2 file:rounded file:border file:border-rule file:bg-panel file:px-2 file:py-0.5 file:text-ink"
      />
      <label className="block text-xs text-quiet">
        Or rows of frequency and level
        <textarea
          rows={3}
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
          placeholder={"5500 -92\n5520 -78"}
          className="figures mt-0.5 w-full rounded border border-rule bg-panel px-1.5 py-1 text-ink"
        />
      </label>
      <Button
        disabled={typed.trim() === "" || siteId === ""}
        onClick={() => void take(new TextEncoder().encode(typed.replace(/[ \t]+/g, ";")), "typed rows")}
      >
        Keep the rows
      </Button>
      {message && (
        <p role={message.ok ? "status" : "alert"} className={`text-xs font-medium ${message.ok ? "" : "text-blocked"}`}>
          {message.text}
        </p>
      )}
      <ErrorTable errors={errors} rowName="Row" />
    </section>
  );
}
