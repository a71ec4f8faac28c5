import type { SitesOfStyle, SitesResult } from "#jobs";
import { MOST_LINKED, type SiteStyle, type Whom } from "#core/sites";
import { counted } from "#core/words";
import { useState, type ReactNode } from "react";
import { toast } from "sonner";
import { useDesk } from "../../desk/DeskContext";
import { Button, euros, figure, freeSight, NumberField, SelectField, Table } from "../../ui";
import { SearchState } from "../../ask/SearchState";
import { useSearch } from "../../ask/useSearch";

const WHOM_WORDS: Record<Whom, string> = {
  unserved: "whom nothing serves yet",
  everybody: "all, as if nobody were linked",
};
const STYLE_WORDS = ["Far-reaching sites", "Small sites"] as const;
const FIRST_STYLES: SiteStyle[] = [
  { reachKm: 10, mastM: 15, mastEur: 3000 },
  { reachKm: 2, mastM: 6, mastEur: 900 },
];
/** How new masts get their power. */
const POWERS = { sun: null, mains100: 100, mains300: 300, mains1000: 1000 } as const;
type Power = keyof typeof POWERS;
const POWER_WORDS: Record<Power, string> = {
  sun: "anywhere, by the sun",
  mains100: "within 100 m of mains",
  mains300: "within 300 m of mains",
  mains1000: "within 1 km of mains",
};

function Numbers({ label, children }: { label: string; children: ReactNode }) {
  return (
    <tr>
      <th scope="row" className="py-0.5 pr-2 text-left font-normal text-quiet">
        {label}
      </th>
      {children}
    </tr>
  );
}

/** What one way to build comes to, as it was built on trial. */
const FIGURES: { label: string; tell: (style: SitesOfStyle) => string }[] = [
  {
    label: "Sites, new masts among them",
    tell: ({ built }) =>
      built ? `${built.sites.length}, ${built.sites.filter(({ isNew }) => isNew).length} new` : "none",
  },
  { label: "Candidates looked from", tell: ({ candidates, newMasts }) => `${candidates}, ${newMasts} on high ground` },
  {
    label: "People in reach of the choice, alone on the air",
    tell: ({ peopleReached, peopleAsked }) => `${peopleReached} of ${peopleAsked}`,
  },
  {
    label: "People served as built, in its own noise",
    tell: ({ built, peopleAsked }) => (built?.isLinked ? `${built.peopleServed} of ${peopleAsked}` : "not built"),
  },
  {
    label: "Mbit/s toward them, middle",
    tell: ({ built }) => (built?.medianMbps == null ? "–" : figure(built.medianMbps, 0)),
  },
  {
    label: "Customers at high modulation (4 bit/s per hertz or more, both ways)",
    tell: ({ built }) => (built?.isLinked ? `${built.fastCustomers} of ${built.customersServed}` : "–"),
  },
  {
    label: "New sectors are heard in free sight out to",
    tell: ({ built }) => (built?.heardKm == null ? "–" : freeSight(built.heardKm)),
  },
  {
    label: "Cost with customers’ kit and masts",
    tell: ({ built }) => (built ? `${euros(built.costEur)}${built.isLinked ? "" : ", sites and bridges alone"}` : "–"),
  },
  {
    label: "Compared at (sectors, masts, joining bridges)",
    tell: ({ costEur, built }) => (built ? euros(costEur) : "–"),
  },
  {
    label: "No choice costs less than, and the gap",
    tell: ({ costEur, lowerBoundEur, built }) =>
      built
        ? `${euros(lowerBoundEur)}, ${costEur > 0 ? figure((100 * (costEur - lowerBoundEur)) / costEur, 1) : "0.0"} %`
        : "–",
  },
];

/** Where further sites would stand: the fewest or cheapest that serve a share of people, in two ways side by side. */
export function BuildView() {
  const { data, draft } = useDesk();
  const [whom, setWhom] = useState<Whom>("unserved");
  const [sharePercent, setSharePercent] = useState(80);
  const [styles, setStyles] = useState(FIRST_STYLES);
  const [withNewMasts, setWithNewMasts] = useState(true);
  const [power, setPower] = useState<Power>("sun");
  const [joinKm, setJoinKm] = useState(20);
  const [seconds, setSeconds] = useState(20);
  const { job, result, failed, start, stop } = useSearch<SitesResult>(data.world.plan.id, true);
  const setStyle = (at: number, change: Partial<SiteStyle>) =>
    setStyles(styles.map((one, i) => (i === at ? { ...one, ...change } : one)));
  const take = ({ built }: SitesOfStyle) => {
    draft.put(built!.patches);
    toast("The choice is in hand: look at it on the plan, then keep or discard it.");
  };
  if (!data.terrain)
    return (
      <p className="p-8 text-center text-sm text-quiet">
        No terrain yet: bring a file under Import. Without ground nobody can say what a place sees.
      </p>
    );
  return (
    <div className="h-full overflow-y-auto p-3 text-[13px]">
      <div className="flex flex-wrap items-end gap-3">
        <SelectField label="For customers" value={whom} onChange={(event) => setWhom(event.target.value as Whom)}>
          {Object.entries(WHOM_WORDS).map(([one, words]) => (
            <option key={one} value={one}>
              {words}
            </option>
          ))}
        </SelectField>
        <div className="w-28">
          <NumberField
            label="People to reach"
            unit="%"
            value={sharePercent}
            step={5}
            min={1}
            max={100}
            decimals={0}
            onChange={setSharePercent}
          />
        </div>
        <div className="w-28">
          <NumberField
            label="Bridges up to"
            unit="km"
            value={joinKm}
            step={1}
            min={1}
            max={60}
            decimals={0}
            onChange={setJoinKm}
          />
        </div>
        <div className="w-32">
          <NumberField
            label="Look for better for"
            unit="s"
            value={seconds}
            step={5}
            min={1}
            max={600}
            decimals={0}
            onChange={setSeconds}
          />
        </div>
      </div>
      <div className="mt-2 flex flex-wrap items-end gap-3">
        <label className="flex items-center gap-1.5 pb-1">
          <input type="checkbox" checked={withNewMasts} onChange={(event) => setWithNewMasts(event.target.checked)} />
          New masts on high ground
        </label>
        {withNewMasts && (
          <SelectField label="Their power" value={power} onChange={(event) => setPower(event.target.value as Power)}>
            {Object.entries(POWER_WORDS).map(([one, words]) => (
              <option key={one} value={one}>
                {words}
              </option>
            ))}
          </SelectField>
        )}
      </div>
      <div className="mt-2 flex flex-wrap gap-x-6 gap-y-2">
        {styles.map((style, i) => (
          <fieldset key={i} className="flex items-end gap-2 rounded border border-rule px-2 pb-1.5">
            <legend className="px-1 text-xs text-quiet">{STYLE_WORDS[i]}</legend>
            <div className="w-24">
              <NumberField
                label="Reach"
                unit="km"
                value={style.reachKm}
                step={0.5}
                min={0.2}
                max={40}
                onChange={(reachKm) => setStyle(i, { reachKm })}
              />
            </div>
            <div className="w-24">
              <NumberField
                label="New mast"
                unit="m"
                value={style.mastM}
                step={1}
                min={1}
                max={120}
                decimals={0}
                onChange={(mastM) => setStyle(i, { mastM })}
              />
            </div>
            <div className="w-28">
              <NumberField
                label="With its power"
                unit="€"
                value={style.mastEur}
                step={100}
                min={0}
                max={1_000_000}
                decimals={0}
                onChange={(mastEur) => setStyle(i, { mastEur })}
              />
            </div>
          </fieldset>
        ))}
        <Button
          look="primary"
          className="self-end"
          disabled={job?.state === "running"}
          onClick={() =>
            void start(
              {
                kind: "sites",
                ...{ whom, share: sharePercent / 100, styles, withNewMasts, joinKm, seconds },
                powerM: POWERS[power],
              },
              draft.patches,
            )
          }
        >
          {result ? "Search again" : "Search where to build"}
        </Button>
      </div>
      <p className="mt-2 text-xs text-quiet">
        Every candidate is answered in full toward every customer in its reach; the cheapest set joined to a feed by
        bridges that clear is chosen and built on trial. Owners, access and building law are not looked at.
      </p>
      <SearchState job={job} failed={failed} onStop={stop} />
      {result && <Answer result={result} onTake={take} />}
    </div>
  );
}

function Answer({ result, onTake }: { result: SitesResult; onTake: (style: SitesOfStyle) => void }) {
  const { styles, isWithoutFeed } = result;
  return (
    <section className="mt-3" aria-label="What was found" data-built={styles.filter(({ built }) => built).length}>
      {isWithoutFeed && (
        <p className="mb-2 text-tight">
          No site of this plan has a feed, so that every present site was taken as fed. Mark where traffic leaves on a
          site’s sheet.
        </p>
      )}
      {styles.map(({ peopleReachable, peopleWanted, peopleAsked }, i) =>
        peopleReachable <= peopleWanted && peopleAsked > 0 ? (
          <p key={i} className="mb-1 text-tight">
            {STYLE_WORDS[i]}: all candidates that can be joined to a feed reach {peopleReachable} of {peopleAsked}{" "}
            people together; that many were asked for.
          </p>
        ) : null,
      )}
      <table className="max-w-3xl [&_td]:px-2 [&_tr]:border-t [&_tr]:border-rule">
        <caption className="sr-only">Ways to build side by side</caption>
        <thead>
          <tr className="text-xs text-quiet">
            <th />
            {styles.map(({ style }, i) => (
              <th key={i} className="px-2 text-right font-normal">
                {STYLE_WORDS[i]}, {figure(style.reachKm)} km
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {FIGURES.map(({ label, tell }) => (
            <Numbers key={label} label={label}>
              {styles.map((style, i) => (
                <td key={i} className="figures text-right whitespace-nowrap">
                  {tell(style)}
                </td>
              ))}
            </Numbers>
          ))}
          <Numbers label="">
            {styles.map((style, i) => (
              <td key={i} className="text-right">
                {style.built && style.built.patches.length > 0 && (
                  <Button
                    className="text-xs"
                    aria-label={`Take in hand: ${STYLE_WORDS[i]}`}
                    onClick={() => onTake(style)}
                  >
                    Take in hand
                  </Button>
                )}
              </td>
            ))}
          </Numbers>
        </tbody>
      </table>
      {styles.map(({ built }, i) => built && <SiteList key={i} title={STYLE_WORDS[i]!} built={built} />)}
    </section>
  );
}

function SiteList({ title, built }: { title: string; built: NonNullable<SitesOfStyle["built"]> }) {
  return (
    <details className="mt-2" open>
      <summary className="cursor-pointer font-semibold">
        {title}: {counted(built.sites.length, "site")}
      </summary>
      {!built.isLinked && (
        <p className="text-xs text-tight">
          More than {MOST_LINKED} customers: sites and bridges alone are in the change; sectors and links follow site by
          site under Ways to serve.
        </p>
      )}
      <Table
        caption={title}
        columns={[
          { name: "Site" },
          { name: "Joined from" },
          { name: "New sectors", isNumber: true },
          { name: "Customers", isNumber: true },
        ]}
      >
        {built.sites.map((site) => (
          <tr key={site.siteId}>
            <td>
              {site.name}
              {site.isNew ? "" : <span className="text-xs text-quiet"> stands already</span>}
            </td>
            <td>{site.joinedTo ?? "fed already"}</td>
            <td className="figures text-right">{site.sectors}</td>
            <td className="figures text-right">{site.customers}</td>
          </tr>
        ))}
      </Table>
    </details>
  );
}
