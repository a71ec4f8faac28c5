import { spawnSync } from "node:child_process";
import { cpSync, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";
import { startServer, stopServer, type RunningServer } from "./startServer";
import { TEMPLATE } from "./template";

const ROOT = dirname(dirname(fileURLToPath(import.meta.url)));
export const PASSWORD = "salt wind on the ridge";

/** Makes the first account as its keeper does on the machine; gives what was said. */
export function makeKeeper(directory: string, login = "ana", password = PASSWORD) {
  return spawnSync("npm", ["run", "-s", "account", "--", "--login", login, "--name", "Ana Ruiz"], {
    ...{ cwd: ROOT, input: `${password}\n`, encoding: "utf8" },
    env: { ...process.env, TEJADO_DATA: directory },
  });
}

/** A directory with the demo in it and nobody's account. */
export function demoDirectory(): string {
  const directory = mkdtempSync(join(tmpdir(), "tejado-e2e-"));
  cpSync(process.env[TEMPLATE]!, directory, { recursive: true });
  return directory;
}

/** Runs with a Tejado that answers beyond its machine, by the name localhost, which Ana keeps. */
export async function withOpenServer(body: (server: RunningServer & { base: string }) => Promise<void>): Promise<void> {
  const directory = demoDirectory();
  makeKeeper(directory);
  const flags = ["--demo", "--host", "0.0.0.0", "--name", "localhost"];
  const server = await startServer(flags, directory);
  try {
    await body({ ...server, base: `http://localhost:${new URL(server.origin).port}` });
  } finally {
    await stopServer(server);
    rmSync(directory, { recursive: true, force: true });
  }
}

const formHeaders = (base: string) => ({ origin: base, "content-type": "application/x-www-form-urlencoded" });

/** Sends a form as somebody, or as nobody. */
export const postForm = (base: string, path: string, fields: Record<string, string>, cookie = "") =>
  fetch(base + path, {
    ...{ method: "POST", redirect: "manual", body: new URLSearchParams(fields).toString() },
    headers: { ...formHeaders(base), cookie },
  });

/** The session in an answer, as the cookie to be sent back. */
export const sessionIn = (response: Response): string =>
  response.headers
    .getSetCookie()
    .map((one) => one.split(";")[0]!)
    .find((one) => one.startsWith("tejado-session=")) ?? "";

export async function signInAs(base: string, login: string): Promise<string> {
  return sessionIn(await postForm(base, "/sign-in", { login, password: PASSWORD }));
}

/** Invites somebody to the demo and makes their account; gives their session. */
export async function invited(base: string, keeper: string, role: string | null, login: string): Promise<string> {
  const page = role === null ? "/people" : "/plans/isla-orvena/people";
  const made = await postForm(base, page, { intent: "invite", ...(role && { role }) }, keeper);
  const [path] = /\/invitations\/[\w-]+/.exec(await made.text())!;
  return sessionIn(await postForm(base, path!, { login, name: login, password: PASSWORD }));
}
