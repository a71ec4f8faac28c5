import { billOf } from "#core/bill";
import { writeAddressesCsv, writeOrderCsv } from "#formats/bill";
import { linkThing, outsiderThing, siteThing, subscriberThing, writeThings, type ExportFormat } from "#formats/export";
import { writeHosts, writeSheetsJson, writeSheetsText, writeZone } from "#formats/sheets";
import { rowsOf, type World } from "#core/plan";
import { linkStates } from "#core/proof";
import type { PlanState } from "./state";

/** Which kinds of things are to be in a file, and which of them by their ids; without ids all of those kinds. */
interface ThingsAsked {
  format: ExportFormat;
  sites: boolean;
  subscribers: boolean;
  links: boolean;
  outsiders: boolean;
  ids: ReadonlySet<string>;
}

/** Things of a plan as a file in an open format. */
export async function thingsFile(state: PlanState, { format, ids, ...kinds }: ThingsAsked): Promise<string> {
  const { world } = state;
  const rows = rowsOf(world);
  const { summaries } = await state.evaluate();
  const states = linkStates(world);
  const wanted = ({ id }: { id: string }) => ids.size === 0 || ids.has(id);
  return writeThings(
    [
      ...(kinds.sites ? rows.sites.filter(wanted).map(siteThing) : []),
      ...(kinds.subscribers ? rows.subscribers.filter(wanted).map(subscriberThing) : []),
      ...(kinds.links
        ? rows.links
            .filter(wanted)
            .map((link) => linkThing(world, link, summaries.get(link.id), states.get(link.id) ?? "planned"))
        : []),
      ...(kinds.outsiders ? rows.outsiders.filter(wanted).map((one) => outsiderThing(world, one)) : []),
    ],
    format,
  );
}

const WRITERS = {
  "bill.csv": (world: World) => writeOrderCsv(billOf(world)),
  "addresses.csv": writeAddressesCsv,
  "hosts.txt": writeHosts,
  "zone.txt": writeZone,
  "sheets.json": writeSheetsJson,
  "sheets.txt": writeSheetsText,
} as const satisfies Record<string, (world: World) => string>;
type KitText = keyof typeof WRITERS;

/** Files that tell of a plan's kit in text, by their names. */
export const KIT_TEXTS = Object.keys(WRITERS) as KitText[];

/** A plan's kit as text, by the name of the file. */
export const kitText = ({ world }: PlanState, { name }: { name: KitText }): string => WRITERS[name](world);
