import { CHANNEL_SCHOOL_WORDS, CHANNEL_SCHOOLS, type ChannelPlan, type ChannelSchool } from "#core/channels";
import { counted } from "#core/words";
import { useState } from "react";
import { toast } from "sonner";
import { useDesk } from "../desk/DeskContext";
import { Button, figure, NumberField, Table, Term } from "../ui";
import { SearchState } from "../work/SearchState";
import { useSearch } from "../work/useSearch";
import { RateChanges } from "./RateChanges";

const NUMBER = "figures text-right whitespace-nowrap";
/** A gap smaller than this would be shown as 0.0, and counts as closed. */
const CLOSED = 0.05;

/** How near a plan is to the best that there can be, never more than is proven. */
function gapWords({ cost, lowerBound }: ChannelPlan): string {
  if (cost - lowerBound < CLOSED) return "proven best";
  return lowerBound > 0 ? `no plan costs less than ${figure(lowerBound)}` : "best found; not proven";
}

/** Channels laid for the whole plan by several schools side by side, each with its moves and with who gains and who loses. */
export function PlanView() {
  const { world, data, draft } = useDesk();
  const [schools, setSchools] = useState<ReadonlySet<ChannelSchool>>(new Set(CHANNEL_SCHOOLS));
  const [workPeople, setWorkPeople] = useState(0.5);
  const [seconds, setSeconds] = useState(10);
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
      <div className="mt-2 flex flex-wrap items-end gap-x-6 gap-y-2">
        <fieldset>
          <legend className="text-xs text-quiet">Schools</legend>
          {CHANNEL_SCHOOLS.map((school) => (
            <label key={school} className="flex items-center gap-1.5">
              <input
                type="checkbox"
                checked={schools.has(school)}
                onChange={() =>
                  setSchools(new Set(CHANNEL_SCHOOLS.filter((one) => (one === school) !== schools.has(one))))
                }
              />
              <Term meaning={CHANNEL_SCHOOL_WORDS[school].meaning}>{CHANNEL_SCHOOL_WORDS[school].name}</Term>
            </label>
          ))}
        </fieldset>
        <div className="w-40">
          <NumberField
            label="A move must save the rate of"
            unit="people"
            value={workPeople}
            step={0.5}
            min={0}
            max={1000}
            onChange={setWorkPeople}
          />
        </div>
        <div className="w-32">
          <NumberField
            label="Look for better for"
            unit="s"
            value={seconds}
            step={5}
            min={1}
            max={300}
            decimals={0}
            onChange={setSeconds}
          />
        </div>
        <Button
          look="primary"
          disabled={job?.state === "running" || schools.size === 0}
          onClick={() =>
            void start({ kind: "channels", schools: [...schools], workPeople, fixedIds: [], seconds }, draft.patches)
          }
        >
          {result ? "Lay them again" : "Lay the channels"}
        </Button>
      </div>
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
            <ol className="ml-4 list-decimal" aria-label="Moves">
              {shown.moves.map(({ radioId, name, fromMHz, toMHz, along }) => (
                <li key={radioId}>
                  {name}:{" "}
                  <span className="figures">
                    {fromMHz} → {toMHz} MHz
                  </span>
                  , with {counted(along, "far end")}; on a live network the far ends first.
                </li>
              ))}
            </ol>
          )}
          <RateChanges world={world} title="Lose rate" changes={shown.lose} />
          <RateChanges world={world} title="Gain rate" changes={shown.gain} />
        </section>
      )}
    </div>
  );
}
