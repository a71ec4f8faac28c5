import { createCipheriv, createDecipheriv, randomBytes, randomInt } from "node:crypto";
import { existsSync, readFileSync, rmSync } from "node:fs";
import { join } from "node:path";
import type { Store } from "./db";
import { makeFlushed } from "./flushed";

const KEY_FILE = "secrets.key";
const KEY_BYTES = 32;

/** Where the key lies that seals the secrets of a data directory. */
export const sealingKeyPath = ({ directory }: Pick<Store, "directory">): string => join(directory, KEY_FILE);

/** The key at a path; null where none lies there, or what lies there is none. */
function keyAt(path: string): Buffer | null {
  if (!existsSync(path)) return null;
  const key = Buffer.from(readFileSync(path, "utf8").trim(), "hex");
  return key.length === KEY_BYTES ? key : null;
}

/**
 * Makes the key of a data directory that has none, with access for its owner only. One that is damaged is replaced where nothing was sealed
 * with it; else it is left as it is, for whoever has a copy.
 */
export async function makeSealingKey(store: Pick<Store, "db" | "directory">): Promise<void> {
  const path = sealingKeyPath(store);
  if (keyAt(path)) return;
  if (existsSync(path)) {
    const { rows } = await store.db.query("SELECT 1 FROM secrets LIMIT 1");
    // Somebody else may have replaced it meanwhile.
    if (rows.length > 0 || keyAt(path)) return;
    rmSync(path, { force: true });
  }
  try {
    makeFlushed(path, randomBytes(KEY_BYTES).toString("hex"), 0o600);
  } catch (error) {
    // Another process on the same data was first.
    if (!keyAt(path)) throw error;
  }
}

function sealingKey(directory: string): Buffer {
  const key = keyAt(sealingKeyPath({ directory }));
  if (!key)
    throw new LostSecret(
      `The key that seals passwords is missing or damaged. Put your copy of ${KEY_FILE} back into the data directory; without one the passwords are lost, and new ones must be set on the devices and typed in here.`,
    );
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
