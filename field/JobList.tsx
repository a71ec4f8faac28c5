import { clock } from "#core/crews";
import { PACK_FORMAT, type FieldAccount, type FieldPack, type FieldVisit } from "#wire";
import { useEffect, useState } from "react";
import { fetchPack } from "./fetchPack";
import { dropPack } from "./keep";
import { NotTaken } from "./NotTaken";
import { Big, Box, OneOf, Unsent } from "./parts";
import { useField } from "./useField";

const hrefOf = ({ planId, visit }: FieldPack, side: "a" | "b") =>
  `#/job/${encodeURIComponent(planId)}/${encodeURIComponent(visit.id)}/${side}/before`;

/** Jobs that are on this phone; with a plan's id, also those that can be taken along. */
export function JobList({ planId }: { planId: string | null }) {
  const field = useField();
  return (
    <main className="mx-auto max-w-xl px-4 pt-3 pb-24">
      <h1 className="text-xl font-semibold">Jobs on this phone</h1>
      <Unsent />
      {field.account && <p className="text-sm text-quiet">Signed in as {field.account.name}</p>}
      <NotTaken />
      <div className="mt-2">
        <Box
          label="Your name, for what you confirm and read"
          value={field.name}
          isText
          autoComplete="name"
          onChange={({ target }) => field.setName(target.value)}
        />
      </div>
      <div className="mt-2 flex flex-wrap gap-2">
        <Choice label="Light" name="theme" options={{ light: "Plain", sun: "Sun", dark: "Night" }} usual="light" />
        <Choice label="Thumb" name="hand" options={{ right: "Right", left: "Left" }} usual="right" />
      </div>
      {field.packs.length === 0 && (
        <p className="mt-4">
          None yet. Open this page from a plan’s Install stage, while there is signal, and take along what you need.
        </p>
      )}
      <ul className="mt-3 space-y-3">
        {field.packs.map((pack) => (
          <li key={pack.visit.id} className="rounded-lg border-2 border-rule bg-panel p-3" data-job={pack.visit.id}>
            <h2 className="text-lg font-semibold">{pack.name}</h2>
            <p className="text-sm text-quiet">
              {whenWords(pack.visit)} · as of {pack.madeAt.slice(0, 16).replace("T", " ")} UTC
            </p>
            {pack.format !== PACK_FORMAT && (
              <p className="text-sm">Fetched by an earlier Tejado: it comes anew by itself when there is signal.</p>
            )}
            <div className="mt-2 flex flex-wrap gap-2">
              {(["a", "b"] as const).map((side) => (
                <a
                  key={side}
                  href={hrefOf(pack, side)}
                  className="inline-flex min-h-14 flex-1 items-center justify-center rounded-lg border-2 border-clay bg-clay px-4 text-center font-semibold text-on-clay"
                >
                  I am at {pack.ends?.[side].sheet.placeName ?? side.toUpperCase()}
                </a>
              ))}
            </div>
            <Leave pack={pack} />
          </li>
        ))}
      </ul>
      {planId && <TakeAlong planId={planId} />}
    </main>
  );
}

/** Taking a job off the phone, never while something of it is only here. */
function Leave({ pack }: { pack: FieldPack }) {
  const { entries, reload } = useField();
  const isWaiting = entries.some(({ visitId, state }) => visitId === pack.visit.id && state !== "kept");
  return (
    <Big
      className="mt-2 w-full"
      disabled={isWaiting}
      onClick={() => void dropPack(pack.planId, pack.visit.id).then(reload)}
    >
      {isWaiting ? "Stays here until all is sent and decided" : "Take off this phone"}
    </Big>
  );
}

const whenWords = ({ day, startMinute }: Pick<FieldVisit, "day" | "startMinute">): string =>
  day === "" ? "no day yet" : `${day}, ${clock(startMinute)}`;

function TakeAlong({ planId }: { planId: string }) {
  const { packs, reload, set } = useField();
  const [visits, setVisits] = useState<FieldVisit[] | null>(null);
  const [problem, setProblem] = useState("");
  useEffect(() => {
    fetch(`/plans/${encodeURIComponent(planId)}/field`)
      .then(async (response) => {
        if (response.status === 401) return setProblem("Sign in at the desk’s page first, then open this one again.");
        if (response.status === 403 || response.status === 404)
          return setProblem("You are not in this plan, or your role in it does not take jobs along. Ask its owner.");
        if (!response.ok) throw new Error();
        const told = (await response.json()) as { visits: FieldVisit[]; account: FieldAccount | null };
        // What is written from now on is that person's, with signal or without.
        set("account", JSON.stringify(told.account));
        setVisits(told.visits);
      })
      .catch(() => setProblem("The plan cannot be reached now. What is on this phone is all there."));
  }, [planId, set]);
  const take = async ({ id, name }: FieldVisit) => {
    if (!(await fetchPack(planId, id)))
      return setProblem(`${name} could not be fetched: try again where there is signal.`);
    await reload();
  };
  const held = new Set(packs.map(({ visit }) => visit.id));
  const open = (visits ?? []).filter(({ state }) => state !== "done");
  return (
    <section aria-label="To take along" className="mt-6">
      <h2 className="text-lg font-semibold">To take along</h2>
      {problem && (
        <p role="alert" className="text-blocked">
          {problem}
        </p>
      )}
      {visits && open.length === 0 && <p>No open jobs for you in this plan.</p>}
      <ul className="divide-y-2 divide-rule">
        {open.map((visit) => (
          <li key={visit.id} className="flex items-center gap-3 py-2">
            <span className="min-w-0 flex-1">
              <strong className="block">{visit.name}</strong>
              <span className="text-sm text-quiet">
                {whenWords(visit)} · {visit.crews.filter(Boolean).join(" and ") || "no crew yet"}
              </span>
            </span>
            <Big onClick={() => void take(visit)}>{held.has(visit.id) ? "Fetch anew" : "Take along"}</Big>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Choice({
  label,
  name,
  options,
  usual,
}: {
  label: string;
  name: string;
  options: Record<string, string>;
  usual: string;
}) {
  const field = useField();
  return (
    <div className="flex-1">
      <p aria-hidden="true" className="text-sm font-semibold">
        {label}
      </p>
      <OneOf
        label={label}
        options={options}
        chosen={field.setting(name) || usual}
        onChoose={(value) => field.set(name, value)}
      />
    </div>
  );
}
