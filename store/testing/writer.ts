import { setPatch } from "#core/plan";
import { valley } from "#core/testing";
import { createPlan, openStore, readPlan, recordChange, signedBy } from "#store";

/** Writes numbered changes into a data directory until it is killed, and says each number once it is acknowledged. */
const [directory, from] = [process.argv[2]!, Number(process.argv[3])];
const store = await openStore(directory);
const author = signedBy("writer");
if (!(await readPlan(store.db, "valley"))) await createPlan(store.db, valley().rows, author, "Began");
for (let count = from + 1; ; count++) {
  await recordChange(store.db, {
    planId: "valley",
    ...author,
    what: `Write ${count}`,
    patches: [setPatch("sites", "west", { notes: String(count) })],
  });
  process.stdout.write(`${count}\n`);
}
