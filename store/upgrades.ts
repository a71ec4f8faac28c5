import { lackedBefore, type KeptPatch } from "#core/plan";
import type { Queries } from "./db";
import { MIGRATIONS } from "./migrations";

type Row = Record<string, unknown>;

/** What an upgrade may ask of the plan as it stands today. */
interface Today {
  /** Carrier of every radio that is in the plan. */
  carrierOf: ReadonlyMap<string, string>;
  /** How many radios are planned at each site. */
  radiosAt: ReadonlyMap<string, number>;
}

/** Brings the patches of one change from the schema before a migration to the one after it. */
type Upgrade = (patches: KeptPatch[], today: Today) => KeptPatch[];

/** Completes whole rows with the fields that they lack from before a migration. */
const withFields =
  (schema: number): Upgrade =>
  (patches) => {
    const lacked = new Map(
      [...new Set(patches.map(({ kind }) => kind))].map((kind) => [kind, lackedBefore(kind, schema)]),
    );
    return patches.map((patch) => {
      const usual = lacked.get(patch.kind)!;
      if ("put" in patch) return { ...patch, put: { ...usual, ...patch.put } };
      return "remove" in patch ? { ...patch, was: { ...usual, ...patch.was } } : patch;
    });
  };

const CHANNEL = ["frequencyMHz", "widthMHz"] as const;

/** Splits the channel off a radio's fields; null where there was none in them. */
function splitChannel(fields: Row): { own: Row; channel: Row | null } {
  const channel = Object.fromEntries(CHANNEL.flatMap((name) => (name in fields ? [[name, fields[name]]] : [])));
  const own = Object.fromEntries(Object.entries(fields).filter(([name]) => !CHANNEL.includes(name as "widthMHz")));
  return { own, channel: Object.keys(channel).length > 0 ? channel : null };
}

/** Channels stood in each radio before they had carriers: the one that a carrier is named after speaks for all on it. */
const toCarriers: Upgrade = (patches, { carrierOf }) => {
  const linkRows = patches.flatMap((patch) =>
    patch.kind !== "links" || "set" in patch ? [] : ["put" in patch ? patch.put : patch.was],
  );
  const ownerOf = (id: string): string => {
    const known = carrierOf.get(id);
    if (known) return known;
    const near = linkRows.find(({ bRadioId }) => bRadioId === id)?.aRadioId as string | undefined;
    return near ? (carrierOf.get(near) ?? near) : id;
  };
  return patches.flatMap((patch): KeptPatch[] => {
    if (patch.kind !== "radios") return [patch];
    const { id } = patch;
    const carrierId = ownerOf(id);
    const speaks = carrierId === id;
    if ("set" in patch) {
      const [set, was] = [splitChannel(patch.set), splitChannel(patch.was)];
      const own: KeptPatch = { ...patch, set: set.own, was: was.own };
      return [
        ...(speaks && set.channel && was.channel
          ? [{ kind: "carriers" as const, id, set: set.channel, was: was.channel }]
          : []),
        ...(Object.keys(set.own).length > 0 ? [own] : []),
      ];
    }
    const row = "put" in patch ? patch.put : patch.was;
    const { own, channel } = splitChannel(row);
    const radio = { ...own, carrierId };
    const carrier = { id, planId: row.planId, timingGroup: "", ...channel };
    if ("put" in patch)
      return [...(speaks ? [{ kind: "carriers" as const, id, put: carrier }] : []), { kind: "radios", id, put: radio }];
    return [
      { kind: "radios", id, remove: true, was: radio },
      ...(speaks ? [{ kind: "carriers" as const, id, remove: true as const, was: carrier }] : []),
    ];
  });
};

/** Mounts were those beside the radios planned at a site before they were counted with them. */
const withMounts: Upgrade = (patches, { radiosAt }) =>
  patches.map((patch) => {
    if (patch.kind !== "sites") return patch;
    const add = radiosAt.get(patch.id) ?? 0;
    const more = (fields: Row): Row =>
      typeof fields.freeMounts === "number" ? { ...fields, freeMounts: Math.min(99, fields.freeMounts + add) } : fields;
    if ("put" in patch) return { ...patch, put: more(patch.put) };
    if ("remove" in patch) return { ...patch, was: more(patch.was) };
    return { ...patch, set: more(patch.set), was: more(patch.was) };
  });

/** What migrations did to the rows of the record beyond bringing fields, by their number. */
const RESHAPED: Partial<Record<number, Upgrade>> = {
  7: (patches, today) => withMounts(toCarriers(patches, today), today),
};

async function todayOf(tx: Queries, planId: string): Promise<Today> {
  const { rows } = await tx.query<{ id: string; carrier_id: string; site_id: string | null }>(
    "SELECT id, carrier_id, site_id FROM radios WHERE plan_id = $1",
    [planId],
  );
  const radiosAt = new Map<string, number>();
  for (const { site_id } of rows) if (site_id !== null) radiosAt.set(site_id, (radiosAt.get(site_id) ?? 0) + 1);
  return { carrierOf: new Map(rows.map(({ id, carrier_id }) => [id, carrier_id])), radiosAt };
}

/** Brings the patches of changes that were written under an older schema to today's shape. */
type Upgrader = (patches: KeptPatch[], schema: number) => Promise<KeptPatch[]>;

/** The upgrader of one plan. It looks at the plan once, when the first old change is met. */
export function upgraderOf(tx: Queries, planId: string): Upgrader {
  let today: Promise<Today> | undefined;
  return async (patches, schema) => {
    if (schema >= MIGRATIONS.length || patches.length === 0) return patches;
    today ??= todayOf(tx, planId);
    let upgraded = patches;
    for (let number = schema + 1; number <= MIGRATIONS.length; number++)
      upgraded = RESHAPED[number]?.(upgraded, await today) ?? upgraded;
    return withFields(schema)(upgraded, await today);
  };
}
