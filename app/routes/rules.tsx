import type { RuleBreak } from "#core/findings";
import { OWN_RULES, RULE_SETS, ruleSetOf, type Rule } from "#core/regulation";
import { counted } from "#core/words";
import { useState } from "react";
import { Link, useRevalidator, useSearchParams } from "react-router";
import { toast } from "sonner";
import { requirePlan } from "../requests/plan.server";
import { PlanFrame } from "../frame/PlanFrame";
import { setPatch } from "#core/plan";
import { keepPatches } from "../keep/keepPatches";
import { EMPTY_RULE, OwnRuleForm } from "../rules/OwnRuleForm";
import { RuleTable } from "../rules/RuleTable";
import { Button, Table } from "../ui";
import type { Route } from "./+types/rules";

export async function loader({ params }: Route.LoaderArgs) {
  const { context, rows, revision } = await requirePlan(params.planId);
  const { plan } = rows;
  const sets = (await context.ask("ruleBreaks")).map(({ ruleSetId, ...breaks }) => ({
    set: ruleSetOf({ ruleSetId, ownRules: plan.ownRules }),
    ...breaks,
  }));
  return { plan, revision, sets, linkCount: rows.links.length };
}

function Breaks({ planId, breaks, breakCount }: { planId: string; breaks: RuleBreak[]; breakCount: number }) {
  return (
    <>
      <Table
        caption="Transmitters that break this rule set"
        columns={[{ name: "Transmitter" }, { name: "At" }, { name: "What breaks" }]}
      >
        {breaks.map(({ linkId, radioId, radio, place, what }) => (
          <tr key={`${linkId} ${radioId}`} className="align-top">
            <td>
              <Link
                to={`/plans/${planId}/paths?sel=link:${encodeURIComponent(linkId)}`}
                className="text-clay underline"
              >
                {radio}
              </Link>
            </td>
            <td>{place}</td>
            <td className="text-xs">{what}</td>
          </tr>
        ))}
      </Table>
      {breakCount > breaks.length && <p className="text-xs text-quiet">and {breakCount - breaks.length} more</p>}
    </>
  );
}

/** The rule sets: what each says, every link that each would break, and the plan's own to be written. */
export default function Rules({ loaderData: { plan, revision, sets, linkCount } }: Route.ComponentProps) {
  const [params, setParams] = useSearchParams();
  const { revalidate } = useRevalidator();
  const [editing, setEditing] = useState<number | "new" | null>(null);
  const shownId = params.get("set") ?? plan.ruleSetId;
  const shown = sets.find(({ set }) => set.id === shownId) ?? sets[0]!;
  const isOwn = shown.set.id === OWN_RULES;
  const inForce = plan.ruleSetId === shown.set.id;
  const keep = async (set: Partial<typeof plan>, what: string) => {
    const { ok, message } = await keepPatches(plan.id, revision, [setPatch("plans", plan.id, set)], what);
    if (ok) toast(`${what}. Undo takes it back.`);
    else toast.error(message);
    await revalidate();
  };
  const putRules = (ownRules: Rule[], what: string) => {
    setEditing(null);
    void keep({ ownRules }, what);
  };
  return (
    <PlanFrame>
      <main className="mx-auto w-full max-w-6xl px-6 py-5">
        <title>{`Rules – ${plan.name}`}</title>
        <p className="text-sm">
          <Link to={`/plans/${plan.id}/settings`} className="text-clay underline">
            Plan settings
          </Link>
        </p>
        <h1 className="text-xl font-semibold">Rules</h1>
        <div role="group" aria-label="Rule sets" className="my-3 flex flex-wrap gap-2">
          {sets.map(({ set, linkCount: broken }) => (
            <Button
              key={set.id}
              aria-pressed={set.id === shown.set.id}
              className={set.id === shown.set.id ? "border-clay text-clay" : ""}
              onClick={() => setParams({ set: set.id }, { replace: true, preventScrollReset: true })}
            >
              {set.name}
              {plan.ruleSetId === set.id ? ", in force" : ""} · {broken} of {linkCount} links break
            </Button>
          ))}
        </div>
        <p className="text-sm">{shown.set.noted}. Tejado says what it checked, never that something is legal.</p>
        {!inForce && (
          <div className="my-3">
            <Button
              look="primary"
              onClick={() => void keep({ ruleSetId: shown.set.id }, `Put ${shown.set.name} in force`)}
            >
              Put {shown.set.name} in force
            </Button>{" "}
            <span className="text-sm text-quiet">
              {shown.linkCount === 0
                ? "No link breaks."
                : `${counted(shown.linkCount, "link breaks", "links break")}: the list is below.`}
            </span>
          </div>
        )}
        <section className="mt-3" aria-labelledby="what">
          <h2 id="what" className="mb-1 font-semibold">
            What it says
          </h2>
          <RuleTable rules={shown.set.rules} />
          {isOwn && (
            <div className="mt-2 space-y-2">
              <div className="flex flex-wrap gap-2">
                {plan.ownRules.map((rule, i) => (
                  <span key={i} className="flex gap-1">
                    <Button onClick={() => setEditing(i)}>
                      Change {rule.bandMHz[0]}–{rule.bandMHz[1]}
                    </Button>
                    <Button
                      aria-label={`Drop the rule ${rule.bandMHz[0]}–${rule.bandMHz[1]}`}
                      onClick={() =>
                        putRules(
                          plan.ownRules.filter((_, k) => k !== i),
                          "Dropped an own rule",
                        )
                      }
                    >
                      ✕
                    </Button>
                  </span>
                ))}
                <Button onClick={() => setEditing("new")}>Add a rule</Button>
                {RULE_SETS.map((set) => (
                  <Button
                    key={set.id}
                    onClick={() =>
                      putRules([...plan.ownRules, ...set.rules], `Copied the rules of ${set.name} into the plan's own`)
                    }
                  >
                    Copy those of {set.name}
                  </Button>
                ))}
              </div>
              {editing !== null && (
                <OwnRuleForm
                  key={editing}
                  rule={editing === "new" ? EMPTY_RULE : plan.ownRules[editing]!}
                  onLeave={() => setEditing(null)}
                  onKeep={(rule) =>
                    putRules(
                      editing === "new"
                        ? [...plan.ownRules, rule]
                        : plan.ownRules.map((one, i) => (i === editing ? rule : one)),
                      editing === "new" ? "Added an own rule" : "Changed an own rule",
                    )
                  }
                />
              )}
            </div>
          )}
        </section>
        <section className="mt-5" aria-labelledby="breaks">
          <h2 id="breaks" className="mb-1 font-semibold">
            What it would break here ({shown.breakCount})
          </h2>
          {shown.breaks.length === 0 ? (
            <p className="text-sm">
              No transmitter of the {linkCount} links passes a cap that this set knows, stands outside its bands or
              where only indoor use is allowed.
            </p>
          ) : (
            <Breaks planId={plan.id} breaks={shown.breaks} breakCount={shown.breakCount} />
          )}
        </section>
      </main>
    </PlanFrame>
  );
}
