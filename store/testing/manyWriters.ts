import { setPatch } from "#core/plan";
import { valley } from "#core/testing";
import { createPlan, openStore, readPlan, recordChange, signedBy } from "#store";

/**
 * Twenty writers on one plan of a data directory, until the process is killed. Each says the op of a change once it is
 * acknowledged; `run` keeps the ops of one run apart from those of another.
 */
const [directory, run] = [process.argv[2]!, process.argv[3]!];
const WRITERS = 20;
const FIELDS = ["name", "notes", "access", "terms", "hazards"] as const;
const store = await openStore(directory);
if (!(await readPlan(store.db, "valley"))) await createPlan(store.db, valley().rows, signedBy("writers"), "Began");
process.stdout.write("ready\n");
await Promise.all(
  Array.from({ length: WRITERS }, async (_, writer) => {
    for (let turn = 0; ; turn++) {
      const op = `run${run}writer${writer}-${turn}`;
      const field = FIELDS[(writer + turn) % FIELDS.length]!;
      const outcome = await recordChange(store.db, {
        ...signedBy(`writer ${writer}`),
        planId: "valley",
        op,
        what: op,
        patches: [setPatch("sites", writer % 2 ? "west" : "east", { [field]: `${run} ${writer} ${turn}` })],
      });
      if (outcome.kind === "kept") process.stdout.write(`${op}\n`);
    }
  }),
);
