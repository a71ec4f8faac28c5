import { Agent, request } from "node:http";
import { json } from "node:stream/consumers";
import { z } from "zod";
import { BenchError, type Access, type DeviceAdapter } from "./adapter";

const value = z.union([z.string(), z.number(), z.null()]);
const boxesSchema = z.array(z.object({ serial: z.string(), radioId: z.string(), password: z.string() }));
const statusSchema = z.object({
  serial: z.string(),
  firmware: z.string(),
  settings: z.record(z.string(), value),
  isEncrypted: z.boolean(),
});
const pairSchema = z.union([
  z.object({
    joined: z.literal(true),
    peer: z.string(),
    levelsDbm: z.array(z.number()).min(1),
    mbps: z.number(),
  }),
  z.object({ joined: z.literal(false), hears: z.array(z.string()) }),
]);

const LONGEST_ANSWER_MS = 20_000;
const NOTHING_ANSWERS = 504;
const WRONG_PASSWORD = 401;

/** The practice bench of `simulators/`, spoken to over HTTP as real devices would be. Throws BenchError in its words. */
export function practiceBench(url: string): DeviceAdapter {
  // Of its own: a connection that another bench left on the same port must not be taken up again.
  const agent = new Agent({ keepAlive: true });
  const ask = (method: string, path: string, body?: unknown, password?: string) =>
    new Promise<{ status: number; body: unknown }>((resolve, reject) => {
      const headers = { "Content-Type": "application/json", ...(password ? { "X-Password": password } : {}) };
      const asked = request(new URL(path, url), { method, agent, headers, timeout: LONGEST_ANSWER_MS }, (response) => {
        json(response).then((answer) => resolve({ status: response.statusCode ?? 0, body: answer }), reject);
      });
      asked.on("error", reject);
      asked.on("timeout", () => asked.destroy(new BenchError("the bench does not answer")));
      asked.end(body === undefined ? undefined : JSON.stringify(body));
    });
  const required = async (method: string, path: string, body?: unknown, password?: string): Promise<unknown> => {
    const answer = await ask(method, path, body, password);
    if (answer.status !== 200)
      throw new BenchError((answer.body as { error?: string }).error ?? `the bench answered ${answer.status}`);
    return answer.body;
  };
  const at = ({ address }: Access, what: string) => `/at/${encodeURIComponent(address)}/${what}`;
  let boxes: Promise<Map<string, { serial: string; password: string }>> | null = null;
  return {
    boxOf: async (radioId) => {
      boxes ??= required("GET", "/boxes").then(
        (found) => new Map(boxesSchema.parse(found).map(({ radioId: id, ...box }) => [id, box])),
      );
      return (await boxes).get(radioId) ?? null;
    },
    plug: async (serial) => void (await required("POST", "/plug", { serial })),
    unplug: async (serial) => void (await required("POST", "/unplug", { serial })),
    laptop: async (address) => void (await required("POST", "/laptop", { address })),
    status: async (access) => {
      const { status, body } = await ask("GET", at(access, "status"), undefined, access.password);
      if (status === NOTHING_ANSWERS || status === WRONG_PASSWORD) return null;
      if (status !== 200) throw new BenchError((body as { error?: string }).error ?? `the bench answered ${status}`);
      return statusSchema.parse(body);
    },
    update: async (access, version) =>
      void (await required("POST", at(access, "firmware"), { version }, access.password)),
    write: async (access, change) => void (await required("POST", at(access, "settings"), change, access.password)),
    restart: async (access) => void (await required("POST", at(access, "restart"), {}, access.password)),
    tryPair: async (access) => pairSchema.parse(await required("GET", at(access, "pair"), undefined, access.password)),
  };
}
