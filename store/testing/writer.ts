import { valley } from "#core/testing";
import { applyChange, createPlan, openStore, readPlan } from "#store";

/** Writes numbered changes into a data directory until it is killed, and says each number once it is acknowledged. */
const [directory, from] = [process.argv[2]!, Number(process.argv[3])];
const store = await openStore(directory);
if (!(await readPlan(store.db, "valley"))) await createPlan(store.db, valley().rows, "writer", "Began");
const site = valley().rows.sites[0]!;
for (let count = from + 1; ; count++) {
  await applyChange(store.db, {
    planId: "valley",
    who: "writer",
    what: `Write ${count}`,
    edits: [{ kind: "sites", id: "west", row: { ...site, notes: String(count) } }],
  });
  process.stdout.write(`${count}\n`);
}
