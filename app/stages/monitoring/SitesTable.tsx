import { monthName, type Availability } from "#core/watch";
import { useDesk } from "../../desk/DeskContext";
import { ChooseButton } from "../../desk/ChooseButton";
import { figure, Table, Term, type Column } from "../../ui";
import { useWatch } from "./MonitoringContext";
import { shareOfTime } from "../../ui/WatchMark";

const COLUMNS: Column[] = [
  { name: "Site" },
  { name: "Customers", isNumber: true },
  { name: "People", isNumber: true },
  { name: "Up, %", isNumber: true },
  { name: "Half the rate, %", isNumber: true },
  { name: "Worst month, %", isNumber: true },
  { name: "With the way to the feed, %", isNumber: true },
];

/** What customers got, by the site that serves them and of the whole plan. */
export function SitesTable() {
  const { kept } = useDesk();
  const { kept: watch } = useWatch();
  const { sites, plan } = watch?.look?.availability ?? { sites: [], plan: null };
  if (!plan) return <p className="p-4 text-center text-sm text-quiet">No customer is watched yet.</p>;
  return (
    <>
      <Table caption="What customers got, by site" columns={COLUMNS} isSticky>
        {[...sites, plan].map((one) => (
          <tr key={one.siteId ?? ""} data-availability={one.siteId ?? "plan"}>
            <td className={one.siteId === null ? "font-semibold" : ""}>
              {one.siteId === null ? (
                "The plan"
              ) : (
                <ChooseButton of={{ kind: "site", id: one.siteId }}>
                  {kept.sites.get(one.siteId)?.name ?? one.siteId}
                </ChooseButton>
              )}
            </td>
            {figuresOf(one).map((text, column) => (
              <td key={column} className="figures text-right whitespace-nowrap">
                {text}
              </td>
            ))}
          </tr>
        ))}
      </Table>
      <p className="mt-2 text-xs text-quiet">
        Hours of all that is known, each customer counted by his people.{" "}
        <Term meaning="The customer’s link with each bridge on his way, month by month, as if no two were ever down in the same hour. Where outages fell together it was better than this.">
          With the way to the feed
        </Term>{" "}
        is a bound from below.
      </p>
    </>
  );
}

const figuresOf = (one: Availability): string[] => [
  figure(one.customers, 0),
  figure(one.people, 0),
  shareOfTime(one.upPercent),
  shareOfTime(one.goodPercent),
  one.worstMonth && one.worstMonth.upPercent < 100
    ? `${shareOfTime(one.worstMonth.upPercent)} in ${monthName(one.worstMonth.month)}`
    : shareOfTime(one.worstMonth?.upPercent ?? null),
  shareOfTime(one.throughPercent, "atLeast"),
];
