import { counted } from "../words";
import { declared, pointedAt, REFERENCES } from "./facts";
import { ROW_KINDS, type Link, type ListKind, type RowKind } from "./kinds";
import { removePatch, setPatch, type Patch } from "./patch";
import { rowsOfKind, type World } from "./world";

/** Something that can be taken off the plan. */
export interface Removable {
  kind: ListKind;
  id: string;
}

/** A removal with all that stands on what goes. */
interface Removal {
  patches: Patch[];
  /** What goes along, in words: "2 links", "1 reading". */
  along: string[];
}

type Gone = Map<RowKind, Set<string>>;

/** The radios that nothing is left for once some links go: far ends and customers' radios, never a sector. */
function leftAlone(world: World, gone: ReadonlySet<string>): string[] {
  const used = new Set<string>();
  const going: Link[] = [];
  for (const link of world.links.values())
    if (gone.has(link.id)) going.push(link);
    else used.add(link.aRadioId).add(link.bRadioId);
  return going
    .flatMap(({ aRadioId, bRadioId }) => [aRadioId, bRadioId])
    .filter((id) => !used.has(id) && world.radios.get(id)?.role !== "sector");
}

/** The carriers that no radio uses any more once some are gone. */
function carriersLeft(world: World, gone: ReadonlySet<string>): Set<string> {
  const left = new Set([...gone].flatMap((id) => world.radios.get(id)?.carrierId ?? []));
  for (const { id, carrierId } of world.radios.values()) if (!gone.has(id)) left.delete(carrierId);
  return left;
}

/** Adds all rows that go along with those that point at them, kind by kind: a kind points only at those before it. */
function addPointing(world: World, gone: Gone): void {
  for (const kind of ROW_KINDS)
    for (const reference of REFERENCES[kind])
      if (reference.facts.whenGone === "remove" && reference.targets.some((target) => gone.get(target)!.size > 0))
        for (const row of rowsOfKind(world, kind)) {
          const to = pointedAt(reference, row);
          if (to.ids.some((id) => gone.get(to.kind)!.has(id))) gone.get(kind)!.add(row.id);
        }
}

/** Fields that are emptied of what goes, in rows that stay. */
function cleared(world: World, gone: Gone): Patch[] {
  const patches: Patch[] = [];
  for (const kind of ROW_KINDS)
    for (const reference of REFERENCES[kind])
      if (reference.facts.whenGone === "clear")
        for (const row of rowsOfKind(world, kind)) {
          const to = pointedAt(reference, row);
          if (gone.get(kind)!.has(row.id) || !to.ids.some((id) => gone.get(to.kind)!.has(id))) continue;
          const rest = reference.isList ? to.ids.filter((id) => !gone.get(to.kind)!.has(id)) : null;
          patches.push(setPatch(kind, row.id, { [reference.name]: rest } as object));
        }
  return patches;
}

/**
 * The patches that take things off the plan together with whatever stands on them, as the fields that point at them say: a place with
 * its radios, scans and photographs, their links, the links' readings, jobs and alarms; and the radios at other places that then serve
 * nothing. A sector stays, with or without customers. One change, so that one undo brings all of it back.
 */
export function removalOf(world: World, things: readonly Removable[]): Removal {
  const gone: Gone = new Map(ROW_KINDS.map((kind) => [kind, new Set<string>()]));
  for (const { kind, id } of things) gone.get(kind)!.add(id);
  addPointing(world, gone);
  for (const id of leftAlone(world, gone.get("links")!)) gone.get("radios")!.add(id);
  // Radios that go alone may be at the end of nothing else, but an alarm may name them.
  addPointing(world, gone);
  for (const id of carriersLeft(world, gone.get("radios")!)) gone.get("carriers")!.add(id);
  const named = new Set(things.map(({ kind, id }) => `${kind} ${id}`));
  const along = ROW_KINDS.flatMap((kind) => {
    const { one, many, follows } = declared(kind);
    const count = [...gone.get(kind)!].filter((id) => !named.has(`${kind} ${id}`)).length;
    return count === 0 || follows ? [] : [counted(count, one, many)];
  });
  const others = ROW_KINDS.flatMap((kind) =>
    [...gone.get(kind)!].filter((id) => !named.has(`${kind} ${id}`)).map((id) => removePatch(kind, id)),
  );
  // What was asked for first: the logbook names what comes first.
  return {
    patches: [...things.map(({ kind, id }) => removePatch(kind, id)), ...others, ...cleared(world, gone)],
    along,
  };
}
