import { useState } from "react";
import { dropEntry, type Entry } from "./keep";
import { entryWords, handOverPage } from "./handOver";
import { Big } from "./parts";
import { isOthers } from "./send";
import { useField } from "./useField";

/** What waits on this phone and cannot go: by plan, with why, to be read and to be handed over as a file. */
export function NotTaken() {
  const { entries, refusals, account, packs } = useField();
  const waiting = entries.filter(({ state }) => state === "waiting");
  const planIds = [...new Set(waiting.map(({ planId }) => planId))];
  return planIds.map((planId) => {
    const mine = waiting.filter((entry) => entry.planId === planId);
    const others = mine.filter((entry) => isOthers(entry, account));
    const refusal = refusals[planId];
    const stuck = refusal ? mine : others;
    if (stuck.length === 0) return null;
    const planName = packs.find((pack) => pack.planId === planId)?.planName ?? planId;
    const writers = [...new Set(others.map(({ writer }) => writer!.name))].join(" and ");
    const why = refusal ?? `${writers} wrote this. It is sent when ${writers} signs in on this phone.`;
    return <Stuck key={planId} planName={planName} why={why} entries={stuck} />;
  });
}

function Stuck({ planName, why, entries }: { planName: string; why: string; entries: readonly Entry[] }) {
  const { reload } = useField();
  const [isSaved, setSaved] = useState(false);
  const [problem, setProblem] = useState("");
  const save = async () => {
    const url = URL.createObjectURL(await handOverPage(planName, entries));
    const link = Object.assign(document.createElement("a"), { href: url, download: `not sent ${planName}.html` });
    link.click();
    setTimeout(() => URL.revokeObjectURL(url), 60_000);
    setSaved(true);
  };
  const letGo = async () => {
    for (const { id } of entries) await dropEntry(id);
    await reload();
  };
  return (
    <section aria-label={`Not sent: ${planName}`} className="mt-3 rounded-lg border-2 border-blocked p-3">
      <h2 className="font-semibold text-blocked">Not sent: {planName}</h2>
      <p role="alert">{why} It stays on this phone.</p>
      <details className="mt-1">
        <summary className="min-h-14 content-center font-semibold">Read it ({entries.length})</summary>
        <ul className="list-disc pl-5 text-sm">
          {entries.map((entry) => (
            <li key={entry.id} className="whitespace-pre-wrap">
              {entryWords(entry)}
            </li>
          ))}
        </ul>
      </details>
      {problem && <p role="alert">{problem}</p>}
      <div className="mt-2 flex flex-wrap gap-2">
        <Big
          className="flex-1"
          look="primary"
          onClick={() => void save().catch((error: Error) => setProblem(error.message))}
        >
          Hand over as a file
        </Big>
        {isSaved && (
          <Big className="flex-1" look="stop" onClick={() => void letGo()}>
            Handed over: take it off this phone
          </Big>
        )}
      </div>
    </section>
  );
}
