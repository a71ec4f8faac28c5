import { createCipheriv, createDecipheriv, randomBytes, randomInt } from "node:crypto";
import { existsSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import type { Store } from "./database";

/** The key that seals the secrets of a data directory. It is created at first use, with access for its owner only. */
function sealingKey(directory: string): Buffer {
  const path = join(directory, "secrets.key");
  if (!existsSync(path)) writeFileSync(path, randomBytes(32).toString("hex"), { mode: 0o600, flag: "wx" });
  const key = Buffer.from(readFileSync(path, "utf8").trim(), "hex");
  if (key.length !== 32) throw new LostSecret(`${path} holds no key of 64 hexadecimal digits`);
  return key;
}

/** A secret was sealed with another key than the one at hand. */
export class LostSecret extends Error {
  override name = "LostSecret";
}

const NONCE_BYTES = 12;
const TAG_BYTES = 16;

/** AES-256-GCM; plan and name are sealed with it, so that no secret can be put in another's place. */
function seal(key: Buffer, text: string, about: string): Uint8Array {
  const nonce = randomBytes(NONCE_BYTES);
  const cipher = createCipheriv("aes-256-gcm", key, nonce).setAAD(Buffer.from(about));
  return Buffer.concat([nonce, cipher.update(text, "utf8"), cipher.final(), cipher.getAuthTag()]);
}

function unseal(key: Buffer, sealed: Buffer, about: string): string {
  const cipher = createDecipheriv("aes-256-gcm", key, sealed.subarray(0, NONCE_BYTES)).setAAD(Buffer.from(about));
  cipher.setAuthTag(sealed.subarray(sealed.length - TAG_BYTES));
  try {
    return (
      cipher.update(sealed.subarray(NONCE_BYTES, sealed.length - TAG_BYTES), undefined, "utf8") + cipher.final("utf8")
    );
  } catch {
    throw new LostSecret(
      "It was sealed on another machine: put that machine’s secrets.key into the data directory to read it.",
    );
  }
}

/** Without letters and digits that are taken for one another. */
const LETTERS = "abcdefghijkmnpqrstuvwxyzABCDEFGHJKLMNPQRSTUVWXYZ23456789";
const LETTERS_IN_SECRET = 20;
const madeUp = (): string =>
  Array.from({ length: LETTERS_IN_SECRET }, () => LETTERS[randomInt(LETTERS.length)]!).join("");

const aboutOf = (planId: string, ref: string) => JSON.stringify([planId, ref]);

/** A secret of a plan, or null if there is none. Throws LostSecret if it was sealed with another key. */
export async function readSecret({ db, directory }: Store, planId: string, ref: string): Promise<string | null> {
  const { rows } = await db.query<{ sealed: Uint8Array }>(
    "SELECT sealed FROM secrets WHERE plan_id = $1 AND ref = $2",
    [planId, ref],
  );
  return rows[0] ? unseal(sealingKey(directory), Buffer.from(rows[0].sealed), aboutOf(planId, ref)) : null;
}

/** A secret of a plan, generated and stored at first use. Simultaneous callers get the same one. */
export async function secretOf(store: Store, planId: string, ref: string): Promise<string> {
  await store.db.query(
    "INSERT INTO secrets (plan_id, ref, sealed) VALUES ($1, $2, $3) ON CONFLICT (plan_id, ref) DO NOTHING",
    [planId, ref, seal(sealingKey(store.directory), madeUp(), aboutOf(planId, ref))],
  );
  return (await readSecret(store, planId, ref))!;
}

/** Keeps a secret that somebody gave, in place of whatever stood there. */
export async function putSecret(store: Store, planId: string, ref: string, text: string): Promise<void> {
  await store.db.query(
    "INSERT INTO secrets (plan_id, ref, sealed) VALUES ($1, $2, $3) ON CONFLICT (plan_id, ref) DO UPDATE SET sealed = EXCLUDED.sealed",
    [planId, ref, seal(sealingKey(store.directory), text, aboutOf(planId, ref))],
  );
}
