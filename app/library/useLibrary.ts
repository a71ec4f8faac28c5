import { gainBeyondPatternDb } from "#core/antenna";
import { putPatch, removePatch, setPatch, type Equipment } from "#core/plan";
import { counted } from "#core/words";
import { isPartsCsv, readAntennaCsv, readPartsCsv, readRadioJson, type KitError } from "#formats/kit";
import { useState } from "react";
import { useRevalidator } from "react-router";
import { toast } from "sonner";
import { keepPatches } from "../keep/keepPatches";

interface Library {
  planId: string;
  revision: number;
  /** Ids of all models and parts that the plan has. */
  known: ReadonlySet<string>;
  /** How often each is in use. */
  uses: Readonly<Record<string, number>>;
}

/** The library's changes: kept at once, and undo takes them back. */
export function useLibrary({ planId, revision, known, uses }: Library) {
  const { revalidate } = useRevalidator();
  const [errors, setErrors] = useState<{ name: string; errors: KitError[] } | null>(null);
  const keep = async (items: Equipment[], what: string) => {
    const patches = items.map((row) =>
      known.has(row.id)
        ? setPatch("equipment", row.id, { body: row.body } as Partial<Equipment>)
        : putPatch("equipment", row),
    );
    const { ok, message } = await keepPatches(planId, revision, patches, what);
    if (ok) toast(`${what}. Undo takes it back.`);
    else toast.error(message);
    await revalidate();
    return ok;
  };
  const take = async (given: File) => {
    setErrors(null);
    const bytes = new Uint8Array(await given.arrayBuffer());
    if (/\.json$/i.test(given.name)) {
      const read = readRadioJson(bytes);
      if (!read.item) return setErrors({ name: given.name, errors: read.errors });
      const clashes = read.item.filter(({ id }) => known.has(id) && uses[id]);
      // A model that links stand on is not replaced behind their back: the newcomer gets an id of its own.
      const items = read.item.map((body): Equipment => {
        const id = clashes.some((one) => one.id === body.id) ? crypto.randomUUID() : body.id;
        return { kind: "radio", id, planId: planId, body: { ...body, id } };
      });
      return keep(items, `Read ${counted(items.length, "radio")} from ${given.name}`.slice(0, 300));
    }
    if (isPartsCsv(bytes)) {
      const read = readPartsCsv(bytes, () => crypto.randomUUID());
      if (!read.item) return setErrors({ name: given.name, errors: read.errors });
      const items = read.item.map((body): Equipment => ({ kind: "part", id: body.id, planId: planId, body }));
      return keep(items, `Read ${counted(items.length, "part")} from ${given.name}`.slice(0, 300));
    }
    const read = readAntennaCsv(bytes, () => crypto.randomUUID());
    if (!read.item) return setErrors({ name: given.name, errors: read.errors });
    const { item } = read;
    const kept = await keep(
      [{ kind: "antenna", id: item.id, planId: planId, body: item }],
      `Read antenna ${item.maker} ${item.model}`,
    );
    const beyondDb = gainBeyondPatternDb(item);
    if (kept && beyondDb > 0)
      toast.warning(
        `${item.model}: the stated gain is ${beyondDb.toFixed(1)} dB more than its cuts allow. It is taken as it stands; check the sheet.`,
        { duration: 12_000 },
      );
  };
  const remove = async (id: string, name: string) => {
    const { ok, message } = await keepPatches(
      planId,
      revision,
      [removePatch("equipment", id)],
      `Took ${name} out of the library`,
    );
    if (ok) toast(`${name} is out of the library. Undo takes it back.`);
    else toast.error(message);
    await revalidate();
  };
  return { errors, keep, take, remove };
}
