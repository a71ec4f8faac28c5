import type { Place } from "#core/geodesy";
import type { LinkSummary } from "#core/outcome";
import {
  fieldsOf,
  linkEnds,
  type Link,
  type LinkState,
  type Outsider,
  type Site,
  type Subscriber,
  type World,
} from "#core/plan";

type Value = string | number | boolean | null;

/** Something to be written out: a place or a path, with what is said of it in a fixed order. */
export interface Thing {
  name: string;
  note: string;
  /** One place, or the two ends of a link. */
  places: readonly Place[];
  values: Readonly<Record<string, Value>>;
}

/** A row's fields under the column names that the import reads. */
function columnsOf(kind: "sites" | "subscribers", row: object): Record<string, Value> {
  const values: Record<string, Value> = {};
  for (const { name, facts } of fieldsOf(kind)) {
    const value = (row as Record<string, Value>)[name]!;
    if (facts.column) values[facts.column.key] = typeof value === "boolean" ? (value ? "yes" : "no") : value;
  }
  return values;
}

export function siteThing(site: Site): Thing {
  return {
    name: site.name,
    note: [site.structureKind, site.notes].filter(Boolean).join(". "),
    places: [site],
    values: { kind: "site", ...columnsOf("sites", site) },
  };
}

export function subscriberThing(one: Subscriber): Thing {
  const values = { kind: "subscriber", ...columnsOf("subscribers", one) };
  return { name: one.name, note: one.notes, places: [one], values };
}

/** A transmitter of somebody else, with what is known of it. */
export function outsiderThing(world: World, one: Outsider): Thing {
  const antenna = world.antennaModels.get(one.antennaModelId ?? "");
  return {
    name: one.name,
    note: one.notes,
    places: [one],
    values: {
      kind: "outsider",
      name: one.name,
      lat: one.latDeg,
      lon: one.lonDeg,
      height: one.heightM,
      frequencyMHz: one.frequencyMHz,
      widthMHz: one.widthMHz,
      eirpDbm: one.eirpDbm,
      timeShare: one.timeShare,
      azimuthDeg: one.azimuthDeg,
      antenna: antenna ? `${antenna.maker} ${antenna.model}` : "",
      notes: one.notes,
    },
  };
}

/** A link with what is predicted of it, and how it stands by its newest reading. */
export function linkThing(world: World, link: Link, summary: LinkSummary | undefined, state: LinkState): Thing {
  const { a, b } = linkEnds(world, link);
  const rounded = (value: number | null | undefined, decimals = 1) =>
    value === null || value === undefined ? null : Number(value.toFixed(decimals));
  return {
    name: `${a.placeName} – ${b.placeName}`,
    note: `${link.kind}, ${summary?.state ?? "unknown"}, ${state}`,
    places: [a.place, b.place],
    values: {
      kind: link.kind,
      from: a.placeName,
      to: b.placeName,
      path: summary?.state ?? "unknown",
      proof: state,
      distanceM: rounded(summary?.distanceM),
      frequencyMHz: a.radio.frequencyMHz,
      widthMHz: a.radio.widthMHz,
      heightA: a.radio.heightM,
      heightB: b.radio.heightM,
      radioA: `${a.model.maker} ${a.model.model}`,
      radioB: `${b.model.maker} ${b.model.model}`,
      antennaA: `${a.antenna.maker} ${a.antenna.model}`,
      antennaB: `${b.antenna.maker} ${b.antenna.model}`,
      levelADbm: rounded(summary?.levelADbm),
      levelBDbm: rounded(summary?.levelBDbm),
      marginLeftDb: rounded(summary?.marginLeftDb),
      downMbps: rounded(summary?.downMbps, 0),
      upMbps: rounded(summary?.upMbps, 0),
    },
  };
}
