import type { Site } from "#core/plan";
import { stagesOf, stageWords } from "#core/schools";
import { useState } from "react";
import { Link } from "react-router";
import { useDesk } from "../../desk/DeskContext";
import { euros, figure, NumberField, Table } from "../../ui";

const NUMBER = "figures text-right whitespace-nowrap";

/** The sectors of a site as stages of growth: which one first, which later, and at how many customers each pays for itself. */
export function StagesView({ site }: { site: Site }) {
  const { world } = useDesk();
  const [months, setMonths] = useState(24);
  const stages = stagesOf(world, site, months);
  if (stages.length === 0) return null;
  return (
    <section className="mt-5" aria-label="Stages">
      <h3 className="font-semibold">Stages: which sector first</h3>
      <div className="flex items-end gap-3">
        <div className="w-28">
          <NumberField
            label="To be paid within"
            unit="months"
            value={months}
            step={6}
            min={1}
            max={240}
            decimals={0}
            onChange={setMonths}
          />
        </div>
        <p className="pb-1 text-xs text-quiet">
          Kit at the library’s prices and the plan’s own figures for work and months (
          <Link to={`/plans/${world.plan.id}/settings`} className="text-clay underline">
            settings
          </Link>
          ), against those who are linked in hand.
        </p>
      </div>
      <p className="mt-2 rounded border border-rule bg-panel p-2" data-stages>
        {stageWords(world, site, stages, months)}
      </p>
      <div className="mt-2 overflow-x-auto" tabIndex={0} role="region" aria-label="Sectors by when they pay">
        <Table
          caption={`Sectors of ${site.name} by when they pay`}
          columns={[
            { name: "Sector" },
            { name: "Customers today", isNumber: true },
            { name: "A month", isNumber: true },
            { name: "Sector, with work", isNumber: true },
            { name: "Each customer, with work", isNumber: true },
            { name: "Paid after", isNumber: true },
            { name: "Pays from", isNumber: true },
          ]}
        >
          {stages.map((stage) => (
            <tr key={stage.radioId}>
              <td>
                {stage.name}
                <span className="block text-xs text-quiet">
                  {Object.entries(stage.byStatus)
                    .map(([status, count]) => `${count} ${status}`)
                    .join(", ")}
                </span>
              </td>
              <td className={NUMBER}>{stage.customers}</td>
              <td className={NUMBER}>{euros(stage.monthEur)}</td>
              <td className={NUMBER}>{euros(stage.sectorEur)}</td>
              <td className={NUMBER}>{euros(stage.customerEur)}</td>
              <td className={NUMBER}>{stage.monthsNow === null ? "–" : `${figure(stage.monthsNow, 0)} months`}</td>
              <td className={NUMBER}>{stage.paysAt === null ? "–" : `${stage.paysAt} customers`}</td>
            </tr>
          ))}
        </Table>
      </div>
    </section>
  );
}
