// npm run account: makes an account that keeps this Tejado, so that it can be opened to a network.
import { resolve } from "node:path";
import { createInterface } from "node:readline/promises";
import { parseArgs } from "node:util";
import { makeAccount } from "#accounts";
import { openStore } from "#store";

const USAGE = `Usage: npm run account -- --login NAME --name "Name in the logbook"
  Asks for the password, or reads it from the first line of what is piped in. Stop Tejado first; start it again afterwards.`;
const WORDS = { login: "--login", name: "--name", password: "The password" } as const;

/** The first line of what is piped in, or what is typed; what is typed is not shown. */
async function readPassword(): Promise<string> {
  const lines = createInterface({ input: process.stdin, output: process.stderr, terminal: process.stdin.isTTY });
  if (process.stdin.isTTY) {
    process.stderr.write("Password, 12 characters or more (it is not shown): ");
    // What is typed goes nowhere.
    (lines as unknown as { _writeToOutput: () => void })._writeToOutput = () => undefined;
  }
  const line = await new Promise<string>((done) => lines.once("line", done).once("close", () => done("")));
  lines.close();
  if (process.stdin.isTTY) process.stderr.write("\n");
  return line;
}

const { values } = parseArgs({ options: { login: { type: "string" }, name: { type: "string" } } });
if (!values.login || !values.name) {
  console.error(USAGE);
  process.exit(2);
}
const password = await readPassword();
const store = await openStore(resolve(process.env.TEJADO_DATA || "data")).catch((error: Error) => {
  console.error(error.name === "DataDirectoryBusy" ? error.message : error);
  process.exit(1);
});
const made = await makeAccount(store.db, { login: values.login, name: values.name, password }, true);
await store.close();
if ("problems" in made) {
  for (const [field, problem] of Object.entries(made.problems))
    console.error(`${WORDS[field as keyof typeof WORDS]} ${problem}.`);
  process.exit(1);
}
console.log(`${made.account.name} keeps this Tejado now and signs in as ${made.account.login}.`);
