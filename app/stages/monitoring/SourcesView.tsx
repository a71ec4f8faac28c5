import { METRICS, type WatchSettings } from "#core/watch";
import { counted } from "#core/words";
import { useState } from "react";
import { useDesk } from "../../desk/DeskContext";
import { Button, SelectField, TextField } from "../../ui";
import { FaultForm } from "./FaultForm";
import { SnmpForm } from "./SnmpForm";
import { TellForm } from "./TellForm";
import { useWatch } from "./MonitoringContext";

const SOURCES = [
  ["none", "Nothing is watched"],
  ["simulated", "A simulated network stands for the devices"],
  ["devices", "Real devices send what they measure"],
] as const;

/** Where a plan's figures come from, and who is told of alarms. */
export function SourcesView() {
  const { kept: watch, job, ask } = useWatch();
  const { kept } = useDesk();
  const [token, setToken] = useState<string | null>(null);
  /** A source that was chosen and waits for a word, since what is there goes with it. */
  const [wanted, setWanted] = useState<WatchSettings["source"] | null>(null);
  if (!watch) return <p className="p-6 text-sm text-quiet">Reading…</p>;
  const { settings, hasToken, received } = watch;
  const isBusy = job?.state === "running";
  return (
    <div
      className="h-full space-y-5 overflow-y-auto p-4 text-sm"
      tabIndex={0}
      role="region"
      aria-label="Where it comes from"
    >
      <section className="max-w-xl space-y-2">
        <h2 className="font-semibold">Where the figures come from</h2>
        <SelectField
          label="Source"
          value={wanted ?? settings.source}
          disabled={isBusy}
          onChange={({ target }) => {
            const next = target.value as typeof settings.source;
            if (next === settings.source) setWanted(null);
            else if (settings.source === "none") void ask({ intent: "source", source: next });
            else setWanted(next);
          }}
        >
          {SOURCES.map(([value, word]) => (
            <option key={value} value={value}>
              {word}
            </option>
          ))}
        </SelectField>
        {wanted === null ? (
          <p className="text-xs text-quiet">
            A change begins the series anew: what was played and what was measured never stand in one.
          </p>
        ) : (
          <div role="alert" className="space-y-2 rounded border border-blocked p-2">
            <p>
              Everything that was {settings.source === "devices" ? "measured" : "played"} so far is dropped with this,
              for good: undo does not bring series back.
            </p>
            <Button onClick={() => void ask({ intent: "source", source: wanted }).then(() => setWanted(null))}>
              Drop it and change
            </Button>{" "}
            <Button look="primary" onClick={() => setWanted(null)}>
              Leave it as it is
            </Button>
          </div>
        )}
        <p className="text-xs">
          <Button disabled={isBusy || settings.source === "none"} onClick={() => void ask({ intent: "look" })}>
            Look now
          </Button>{" "}
          {watch.look
            ? `Last looked up to ${watch.look.at.slice(0, 16).replace("T", " ")} UTC.`
            : "Nothing looked at yet."}
        </p>
      </section>
      {settings.source === "simulated" && <FaultForm />}
      {settings.source === "devices" && (
        <section className="max-w-2xl space-y-2">
          <h2 className="font-semibold">Sending samples</h2>
          <p>
            Devices and collectors send JSON or CSV to{" "}
            <code className="figures">/plans/{kept.plan.id}/watch/samples</code> with the plan's token. What is answered
            as kept is on the disk.
          </p>
          <pre className="figures overflow-x-auto rounded border border-rule bg-panel p-2 text-xs">
            {`curl -H "Authorization: Bearer TOKEN" -H "Content-Type: application/json" \\
  -d '[{"series":"${[...kept.links.keys()][0] ?? "LINK"}/a","at":"2026-11-27T08:00:00Z","level0Dbm":-61,"noiseDbm":-92}]' \\
  ${typeof window === "undefined" ? "" : window.location.origin}/plans/${kept.plan.id}/watch/samples`}
          </pre>
          <p className="text-xs text-quiet">
            Series: LINK/a and LINK/b as each end hears it, radio/RADIO for a device, weather. Figures:{" "}
            {METRICS.slice(0, -1)
              .map(({ key, unit }) => `${key} (${unit})`)
              .join(", ")}
            .
          </p>
          <label className="block text-xs text-quiet">
            Or a file of such samples, JSON or CSV
            <input
              type="file"
              accept=".json,.csv,application/json,text/csv"
              className="mt-1 block w-full text-xs"
              onChange={({ target }) => {
                const file = target.files?.[0];
                target.value = "";
                if (!file) return;
                const isCsv = /\.csv$/i.test(file.name) || file.type === "text/csv";
                void file.text().then((text) => ask({ intent: "samples", text, isCsv }));
              }}
            />
          </label>
          <div className="flex gap-2">
            <Button
              look="primary"
              onClick={() =>
                void ask({ intent: "token", isOn: true }).then((answer) => setToken(answer?.token ?? null))
              }
            >
              {hasToken ? "Make another token" : "Make a token"}
            </Button>
            {hasToken && (
              <Button onClick={() => void ask({ intent: "token", isOn: false }).then(() => setToken(null))}>
                Take it back
              </Button>
            )}
          </div>
          {token && (
            <div className="max-w-md">
              <TextField
                label="Shown once: only its fingerprint is kept"
                value={token}
                readOnly
                onFocus={({ target }) => target.select()}
              />
            </div>
          )}
        </section>
      )}
      {settings.source === "devices" && <SnmpForm key={JSON.stringify(settings.snmp)} />}
      {Object.keys(received).length > 0 && (
        <section>
          <h2 className="font-semibold">What came last</h2>
          <ul>
            {Object.entries(received).map(([by, what]) => (
              <li key={by} className="text-xs">
                {by === "told" ? toldWords(what as ToldShown) : `${by}: ${receivedWords(what as ReceivedShown)}`}
              </li>
            ))}
          </ul>
        </section>
      )}
      <TellForm key={JSON.stringify([settings.emails, settings.webhook, settings.quietHours, settings.maintenance])} />
    </div>
  );
}

interface ToldShown {
  at: string;
  alarmIds: string[];
  problem: string;
}

const toldWords = ({ at, alarmIds, problem }: ToldShown): string =>
  `told ${at.slice(0, 19).replace("T", " ")} UTC, of ${alarmIds.length} alarms so far${problem === "" ? "" : `; not told: ${problem}. It is tried again with the next look`}`;

interface ReceivedShown {
  at: string;
  series?: number;
  kept?: number;
  silent?: number;
  strangers?: number;
  ahead?: number;
  tooLate?: number;
  unknown?: number;
  skewMs?: number;
}

/** What a batch came to, in words: what was left out is said as plainly as what was kept. */
function receivedWords({
  at,
  series,
  kept,
  silent = 0,
  strangers = 0,
  ahead = 0,
  tooLate = 0,
  unknown = 0,
  skewMs = 0,
}: ReceivedShown): string {
  const left = [
    silent > 0 && `${silent} devices did not answer`,
    strangers > 0 && `${strangers} clients in access points' tables that are no customers of theirs here, not kept`,
    ahead > 0 && `${ahead} from the future: the sender's clock is ${Math.round(skewMs / 1000)} s ahead, not kept`,
    tooLate > 0 && `${tooLate} over ten days late, not kept`,
    unknown > 0 && `${unknown} of series that the plan does not have, not kept`,
  ].filter(Boolean);
  const came = kept === undefined ? `${series ?? 0} series played` : `${counted(kept, "sample")} kept`;
  return `${at.slice(0, 19).replace("T", " ")} UTC, ${came}${left.length > 0 ? `; ${left.join(", ")}` : ""}`;
}
