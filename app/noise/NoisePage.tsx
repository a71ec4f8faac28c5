import type { SubmissionResult } from "@conform-to/react";
import type { ChannelRow } from "#core/interference";
import { removePatch, type Outsider, type Plan, type Scan } from "#core/plan";
import { useState } from "react";
import { PlanFrame } from "../frame/PlanFrame";
import { useKeepAtOnce } from "../keep/useKeepAtOnce";
import { Button, figure, SelectField, Table, type Column } from "../ui";
import { Outsiders } from "./Outsiders";
import { ScanChart, scanLabel } from "./ScanChart";
import { ScanFileForm } from "./ScanFileForm";
import { ScannerForm } from "./ScannerForm";

const MOST_COMPARED = 6;
const SCAN_COLUMNS: Column[] = [
  { name: "Compare" },
  { name: "Heading, polarization, time" },
  { name: "From – to, MHz", isNumber: true },
  { name: "Strongest", isNumber: true },
  { name: "Source" },
  { name: "Remove", isHidden: true },
];
const CHANNEL_COLUMNS: Column[] = [
  { name: "Radio" },
  { name: "Site" },
  { name: "Channel", isNumber: true },
  { name: "Heading", isNumber: true },
  { name: "Heard in it", isNumber: true },
  { name: "Floor on the tape", isNumber: true },
];

interface NoiseProps {
  plan: Plan;
  revision: number;
  sites: { id: string; name: string }[];
  scans: Scan[];
  channels: ChannelRow[];
  outsiders: Outsider[];
  antennas: { id: string; name: string }[];
  result: { ok: boolean; message: string } | null;
  /** The answer to a question that could not be asked, for its form. */
  refused: SubmissionResult<string[]> | null;
}

/** Scans from a file, from typed rows or from a scanner, compared over time and heading, and what they say of our channels. */
export function NoisePage({
  plan,
  revision,
  sites,
  scans,
  channels,
  outsiders,
  antennas,
  result,
  refused,
}: NoiseProps) {
  const [siteId, setSiteId] = useState(scans[0]?.siteId ?? sites[0]?.id ?? "");
  const [compared, setCompared] = useState<readonly string[]>([]);
  const keep = useKeepAtOnce(plan.id, revision);
  const here = scans.filter((scan) => scan.siteId === siteId);
  const shown = compared.length > 0 ? here.filter(({ id }) => compared.includes(id)) : here.slice(0, 2);
  const toggle = (id: string) =>
    setCompared((old) => (old.includes(id) ? old.filter((one) => one !== id) : [...old, id].slice(-MOST_COMPARED)));
  const remove = (scan: Scan) => keep(removePatch("scans", scan.id), `Took out the scan ${scanLabel(scan)}`);
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
              <Table caption="Scans of the site" columns={SCAN_COLUMNS}>
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
              </Table>
            </div>
            <h2 className="mt-4 mb-1 text-sm font-semibold">Our channels, noisiest first</h2>
            <Table caption="Our channels, noisiest first" columns={CHANNEL_COLUMNS}>
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
            </Table>
            <Outsiders planId={plan.id} revision={revision} outsiders={outsiders} antennas={antennas} />
          </section>
          <div className="space-y-4">
            <ScannerForm siteId={siteId} isDemo={plan.isDemo} lastResult={refused} />
            <ScanFileForm planId={plan.id} revision={revision} sites={sites} siteId={siteId} />
          </div>
        </div>
      </main>
    </PlanFrame>
  );
}
