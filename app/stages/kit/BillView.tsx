import { BILL_RULES, billOf, growthStages, leaveOut, type Bill, type BillLine, type CanWait } from "#core/bill";
import { counted } from "#core/words";
import { PART_KIND_WORDS } from "#core/plan";
import { useMemo, useState } from "react";
import { useDesk } from "../../desk/DeskContext";
import { buttonClass, euros, figure, SelectField, Table, Term } from "../../ui";
import { scopeOf, stageScope, WHOLE, type Scope } from "../../desk/scope";

const NUMBER = "figures text-right whitespace-nowrap";
const kindWord = ({ kind }: BillLine) => (kind === "radio" || kind === "antenna" ? kind : PART_KIND_WORDS[kind]);
const count = ({ unit }: BillLine, value: number) => (unit === "m" ? `${figure(value, 0)} m` : figure(value, 0));

/** How it is sold: one by one, by the pack, or from a drum. */
function packWords({ packOf, packs, unit }: BillLine): string {
  if (packOf === 1) return `${packs}`;
  return unit === "m" ? `${packs} × ${figure(packOf, 0)} m` : `${packs} × ${packOf}`;
}

/** What is to be bought for the whole plan or the chosen part of it, in packs, with spares, price and weight. */
export function BillView() {
  const { world, kept, data, draft, selection } = useDesk();
  const chosen = useMemo(() => scopeOf(world, selection), [world, selection]);
  const stages = useMemo(() => growthStages(world), [world]);
  const [wanted, setWanted] = useState("all");
  const scope = useMemo((): Scope => {
    if (wanted === "chosen") return chosen ?? WHOLE;
    const stage = Number(wanted);
    return stages.includes(stage) ? stageScope(world, stage) : WHOLE;
  }, [wanted, chosen, stages, world]);
  const bill = useMemo(() => billOf(world, scope.radios, scope.sites), [world, scope]);
  const before = useMemo(
    () => (draft.patches.length > 0 && scope === WHOLE ? billOf(kept) : null),
    [kept, draft.patches, scope],
  );
  const { budgetEur } = world.plan;
  return (
    <div className="h-full overflow-y-auto p-3 text-[13px]">
      <div className="flex flex-wrap items-end gap-3">
        <SelectField
          label="Bill for"
          value={scope === WHOLE ? "all" : wanted}
          onChange={({ target }) => setWanted(target.value)}
        >
          <option value="all">the whole plan</option>
          {stages.length > 1 &&
            stages.map((stage) => (
              <option key={stage} value={stage}>
                stage {stage} of growth
              </option>
            ))}
          {chosen && <option value="chosen">{chosen.name}</option>}
        </SelectField>
        <p className="flex-1 pb-1 text-xs text-quiet">
          Cable: the runs, {figure(BILL_RULES.slackShare * 100, 0)} % slack and a drip loop of {BILL_RULES.dripLoopM} m
          at either end, cut from drums. An arrester at both ends of what runs outdoors. Of customers’ radios, injectors
          and arresters one spare in {BILL_RULES.sparesOneIn}, one at least; of an adaptive antenna one on the shelf. A
          roll of each tape for {BILL_RULES.jointsPerTape} joints, one at each radio’s cable and two at each jumper.
        </p>
        {scope === WHOLE && (
          <a className={buttonClass()} href={`/plans/${data.world.plan.id}/kit/bill.csv`} download>
            Order list, CSV
          </a>
        )}
      </div>
      {bill.lines.length === 0 ? (
        <p className="mt-4 text-quiet">Nothing is planned here yet: link a customer, or put up a bridge.</p>
      ) : (
        <>
          <Totals bill={bill} before={before} budgetEur={scope === WHOLE ? budgetEur : 0} />
          {scope === WHOLE && budgetEur > 0 && bill.priceEur > budgetEur && (
            <CanWaitList bill={bill} overEur={bill.priceEur - budgetEur} />
          )}
          {bill.missing.length > 0 && (
            <p className="mt-1 text-blocked">The library has no part for: {bill.missing.join(", ")}.</p>
          )}
          <Lines bill={bill} />
        </>
      )}
    </div>
  );
}

function Totals({ bill, before, budgetEur }: { bill: Bill; before: Bill | null; budgetEur: number }) {
  const over = budgetEur > 0 ? bill.priceEur - budgetEur : 0;
  return (
    <p className="mt-2 rounded border border-rule bg-panel p-2" data-bill={Math.round(bill.priceEur)}>
      {before && `${euros(before.priceEur)} → `}
      <strong>{euros(bill.priceEur)}</strong> in all; {figure(bill.weightKg, 0)} kg in the car,{" "}
      {figure(bill.climbKg, 0)} kg of it{" "}
      <Term meaning="Radios, antennas, brackets, cable, jumpers, plugs, tapes and tools, and half of the arresters: what is carried or hauled up. Batteries, panels, enclosures, switches, injectors and earth bars stay at the foot. Spares are in neither figure.">
        to go up
      </Term>
      .
      {over > 0 && (
        <strong className="text-blocked">
          {" "}
          {euros(over)} over the budget of {euros(budgetEur)}.
        </strong>
      )}
      {budgetEur > 0 && over <= 0 && ` ${euros(-over)} of the budget of ${euros(budgetEur)} are left.`}
    </p>
  );
}

/** How many of what can wait are named before the list is opened. */
const MOST_NAMED = 12;
const WAIT_WORDS: Record<CanWait["kind"], string> = {
  unserved: "not served as planned",
  spares: "they can follow",
  customer: "dear for what is asked",
};

/** What to leave out first until the bill keeps to the budget. */
function CanWaitList({ bill, overEur }: { bill: Bill; overEur: number }) {
  const { world, summaries } = useDesk();
  const waiting = useMemo(
    () => leaveOut(world, bill, (linkId) => summaries.get(linkId)?.served ?? false, overEur),
    [world, bill, summaries, overEur],
  );
  const savedEur = waiting.reduce((sum, { savesEur }) => sum + savesEur, 0);
  return (
    <details className="mt-2 rounded border border-rule p-2" data-can-wait={waiting.length}>
      <summary className="cursor-pointer">
        What can wait: {counted(waiting.length, "item")} that make {euros(savedEur)}
        {savedEur < overEur && ", which is not enough"}
      </summary>
      <p className="mt-1 text-xs text-quiet">
        Customers whom the plan does not serve as it stands first, the dearest before the others; then spares; then
        those who cost most for each Mbit/s they ask for. Each with its own radio, antenna and cable, at prices by the
        piece and metre.
      </p>
      <ol className="mt-1">
        {waiting.slice(0, MOST_NAMED).map(({ linkId, kind, name, savesEur }) => (
          <li key={linkId ?? kind}>
            {name}: <span className="figures">{euros(savesEur)}</span>
            <span className="text-quiet"> · {WAIT_WORDS[kind]}</span>
          </li>
        ))}
      </ol>
      {waiting.length > MOST_NAMED && <p className="text-quiet">and {waiting.length - MOST_NAMED} more</p>}
    </details>
  );
}

function Lines({ bill }: { bill: Bill }) {
  return (
    <div className="mt-2 overflow-x-auto" tabIndex={0} role="region" aria-label="Lines of the bill">
      <Table
        caption="Bill"
        columns={[
          { name: "Item" },
          { name: "Kind" },
          { name: "Needed", isNumber: true },
          { name: "Spare", isNumber: true },
          { name: "To order", isNumber: true },
          { name: "Price", isNumber: true },
          { name: "Weight", isNumber: true },
        ]}
      >
        {bill.lines.map((line) => (
          <tr key={line.itemId} data-item={line.itemId}>
            <td>{line.name}</td>
            <td className="text-quiet">{kindWord(line)}</td>
            <td className={NUMBER}>{count(line, line.needed)}</td>
            <td className={NUMBER}>{line.spare === 0 ? "–" : count(line, line.spare)}</td>
            <td className={`${NUMBER} font-semibold`}>
              {line.packOf === 1 ? (
                packWords(line)
              ) : (
                <Term meaning={`Sold ${line.unit === "m" ? "by the drum of" : "in packs of"} ${line.packOf}.`}>
                  {packWords(line)}
                </Term>
              )}
            </td>
            <td className={NUMBER}>{euros(line.priceEur)}</td>
            <td className={NUMBER}>{figure(line.weightKg, line.weightKg < 10 ? 1 : 0)} kg</td>
          </tr>
        ))}
      </Table>
    </div>
  );
}
