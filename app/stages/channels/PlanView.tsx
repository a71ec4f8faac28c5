import { backhaulOf } from "#core/capacity";
import {
  CHANNEL_SCHOOL_WORDS,
  changeOrder,
  type ChannelMove,
  type ChannelPlan,
  type ChannelSchool,
} from "#core/channels";
import type { World } from "#core/plan";
import { counted } from "#core/words";
import { useMemo, useState } from "react";
import { toast } from "sonner";
import { useDesk } from "../../desk/DeskContext";
import { Button, figure, Table } from "../../ui";
import { SearchState } from "../../ask/SearchState";
import { useSearch } from "../../ask/useSearch";
import { PlanOptions, USUAL_ASK } from "./PlanOptions";
import { RateChanges } from "./RateChanges";

const NUMBER = "figures text-right whitespace-nowrap";
/** Bound and cost this near, as a share of the cost, are one: rounding. */
const CLOSED_SHARE = 1e-6;

/** How near a plan is to the best that there can be, never more than the solver's bound proves. */
function gapWords({ cost, lowerBound }: ChannelPlan): string {
  if (cost - lowerBound <= CLOSED_SHARE * Math.max(1, cost)) return "the best possible";
  if (lowerBound <= 0) return "best found";
  return `best found, at most ${Math.ceil(((cost - lowerBound) / lowerBound) * 100)} % from the best possible`;
}

/** Channels laid for the whole plan by several schools side by side, each with its moves and with who gains and who loses. */
export function PlanView() {
  const { world, data, draft } = useDesk();
  const [ask, setAsk] = useState(USUAL_ASK);
  const { job, result, failed, start, stop } = useSearch<ChannelPlan[]>(data.world.plan.id, true);
  const [opened, setOpened] = useState<ChannelSchool | null>(null);
  const shown = result?.find(({ school }) => school === opened) ?? result?.[0];
  const take = ({ patches, moves }: ChannelPlan) => {
    draft.put(patches);
    toast(`${counted(moves.length, "move")} in hand: look at the comb, then keep or discard.`);
  };
  return (
    <div className="h-full overflow-y-auto p-3 text-[13px]">
      <p className="text-xs text-quiet">
        Channels that lose fewest people’s rates, over the real losses between everybody, within rules and kit. Each
        plan is then answered in full. Cost: the people whose rate is lost to another of the plan, and two in a thousand
        for each decibel that their noise rises.
      </p>
      <PlanOptions ask={ask} onChange={setAsk} />
      <Button
        look="primary"
        className="mt-2"
        disabled={job?.state === "running" || ask.schools.length === 0}
        onClick={() => void start({ kind: "channels", ...ask }, draft.patches)}
      >
        {result ? "Lay them again" : "Lay the channels"}
      </Button>
      <SearchState job={job} failed={failed} onStop={stop} />
      {result && (
        <div className="mt-3 overflow-x-auto" tabIndex={0} role="region" aria-label="Channel plans side by side">
          <Table
            caption="Channel plans side by side"
            columns={[
              { name: "School" },
              { name: "Cost of noise, in people", isNumber: true },
              { name: "How good" },
              { name: "Move", isNumber: true },
              { name: "Gain, lose", isNumber: true },
              { name: "People served", isNumber: true },
              { name: "Take", isHidden: true },
            ]}
          >
            {result.map((plan) => (
              <tr
                key={plan.school}
                data-channel-plan={plan.school}
                className={plan === shown ? "bg-panel font-semibold" : ""}
              >
                <td>
                  <button
                    type="button"
                    className="text-left text-clay underline"
                    onClick={() => setOpened(plan.school)}
                  >
                    {CHANNEL_SCHOOL_WORDS[plan.school].name}
                  </button>
                </td>
                <td className={NUMBER}>
                  {figure(plan.costNow)} → {figure(plan.cost)}
                </td>
                <td>{gapWords(plan)}</td>
                <td className={NUMBER}>
                  {plan.moves.length} of {plan.groups}
                </td>
                <td className={NUMBER}>
                  {plan.gain.length}, {plan.lose.length}
                </td>
                <td className={NUMBER}>
                  {plan.peopleServedNow} → {plan.peopleServed}
                </td>
                <td>
                  <Button
                    className="px-1.5 py-0 text-xs"
                    disabled={plan.patches.length === 0}
                    aria-label={`Take in hand: ${CHANNEL_SCHOOL_WORDS[plan.school].name}`}
                    onClick={() => take(plan)}
                  >
                    Take in hand
                  </Button>
                </td>
              </tr>
            ))}
          </Table>
        </div>
      )}
      {shown && (
        <section className="mt-3" aria-label={CHANNEL_SCHOOL_WORDS[shown.school].name}>
          <h3 className="font-semibold">{CHANNEL_SCHOOL_WORDS[shown.school].name}</h3>
          {shown.moves.length === 0 ? (
            <p className="text-quiet">Nothing has to move.</p>
          ) : (
            <Moves moves={shown.moves} />
          )}
          <RateChanges world={world} title="Lose rate" changes={shown.lose} />
          <RateChanges world={world} title="Gain rate" changes={shown.gain} />
        </section>
      )}
    </div>
  );
}

/** The radios of one step in their order, customers' counted. */
function radioWords(world: World, radioIds: readonly string[]): string {
  const customers = radioIds.filter((id) => world.radios.get(id)?.subscriberId).length;
  const sites = radioIds.flatMap((id) => (world.radios.get(id)?.siteId ? [world.radios.get(id)!.name] : []));
  return [...(customers > 0 ? [counted(customers, "customer’s radio", "customers’ radios")] : []), ...sites].join(
    ", then ",
  );
}

/** The moves in the order in which a live network bears them. */
function Moves({ moves }: { moves: readonly ChannelMove[] }) {
  const { world, summaries } = useDesk();
  const steps = useMemo(() => changeOrder(world, moves, backhaulOf(world, summaries)), [world, moves, summaries]);
  return (
    <>
      <p className="text-xs text-quiet">
        In this order on a live network: farthest from the feed first, in each step too, since nobody reaches a far end
        any more once the end nearer the feed has gone. Change at night, one step at a time, and wait until all are
        back.
      </p>
      <ol className="ml-4 list-decimal" aria-label="Moves">
        {steps.map(
          ({ move: { radioId, name, fromMHz, toMHz }, radioIds, customersDown, peopleDown, meanwhileMeets }) => (
            <li key={radioId}>
              {name},{" "}
              <span className="figures">
                {fromMHz} → {toMHz} MHz
              </span>
              : {radioWords(world, radioIds)}. Meanwhile {counted(customersDown, "customer")},{" "}
              {counted(peopleDown, "person", "people")}, without service
              {meanwhileMeets.length > 0
                ? `; until ${meanwhileMeets.join(" and ")} has moved too, both share spectrum`
                : ""}
              .
            </li>
          ),
        )}
      </ol>
    </>
  );
}
