import { endOf } from "#core/plan";
import { linkStates } from "#core/proof";
import { useState } from "react";
import { Link } from "react-router";
import { jobsSeen } from "../access/ownJobs.server";
import { requirePlan } from "../requests/plan.server";
import { buttonClass, ProofMark, TextField } from "../ui";
import type { Route } from "./+types/crew";

export async function loader({ params }: Route.LoaderArgs) {
  const { store, rows, world } = await requirePlan(params.planId);
  const sees = await jobsSeen(store, world);
  const states = linkStates(world);
  return {
    planId: params.planId,
    planName: rows.plan.name,
    isOwn: !sees.all,
    links: rows.links
      .filter(({ id }) => sees.link(id))
      .map(({ id, aRadioId, bRadioId }) => ({
        ...{ id, state: states.get(id) ?? ("planned" as const) },
        name: `${endOf(world, aRadioId).placeName} – ${endOf(world, bRadioId).placeName}`,
      }))
      .sort((x, y) => Number(x.state === "proven") - Number(y.state === "proven") || x.name.localeCompare(y.name)),
  };
}

/** Links that are shown at once. */
const MOST_SHOWN = 100;

/** What a crew works from: every link of the plan with its sheet and its readings, those not yet proven first. */
export default function Crew({ loaderData: { planId, planName, isOwn, links } }: Route.ComponentProps) {
  const [wanted, setWanted] = useState("");
  const found = links.filter(({ name }) => name.toLowerCase().includes(wanted.trim().toLowerCase()));
  const base = `/plans/${encodeURIComponent(planId)}/links`;
  return (
    <main className="mx-auto max-w-xl px-4 py-4">
      <title>{`Crew – ${planName}`}</title>
      <h1 className="mb-2 text-lg font-semibold">{planName}, for the crew</h1>
      <a
        href={`/field/#/plan/${encodeURIComponent(planId)}`}
        className={`${buttonClass("primary")} mb-3 min-h-12 w-full`}
      >
        Jobs onto this phone
      </a>
      {links.length === 0 ? (
        <p className="text-quiet">{isOwn ? "No job of yours is planned yet." : "No link is planned yet."}</p>
      ) : (
        <TextField
          label="Find by place"
          type="search"
          value={wanted}
          onChange={({ target }) => setWanted(target.value)}
        />
      )}
      {links.length > 0 && found.length === 0 && <p className="mt-2 text-quiet">No place is called so.</p>}
      <ul className="divide-y divide-rule">
        {found.slice(0, MOST_SHOWN).map(({ id, name, state }) => (
          <li key={id} className="flex flex-wrap items-center gap-2 py-2" data-crew-link={id}>
            <span className="min-w-0 flex-1 font-medium">{name}</span>
            <ProofMark state={state} />
            <Link to={`${base}/${encodeURIComponent(id)}/sheet`} className={`${buttonClass()} min-h-12`}>
              Sheet
            </Link>
            <Link to={`${base}/${encodeURIComponent(id)}/proof`} className={`${buttonClass()} min-h-12`}>
              Reading
            </Link>
          </li>
        ))}
      </ul>
      {found.length > MOST_SHOWN && (
        <p className="mt-2 text-quiet">and {found.length - MOST_SHOWN} more: find yours by its place</p>
      )}
    </main>
  );
}
