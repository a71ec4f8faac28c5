import { createCipheriv, createDecipheriv, randomBytes, scryptSync } from "node:crypto";
import { readFileSync } from "node:fs";
import { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import { createGunzip } from "node:zlib";
import { extract } from "tar-stream";

/** Thrown where a file is no backup, or not one that can be opened here. */
export class NoBackup extends Error {}

/** A sealed backup begins with this, then salt, nonce and tag. */
const MARK = Buffer.from("TEJADO-SEALED-1\n");
const SALT_BYTES = 16;
const NONCE_BYTES = 12;
const TAG_BYTES = 16;
/** scrypt with 32 MiB, as RFC 7914 has it for what is opened seldom. */
const COST = { N: 2 ** 15, r: 8, p: 1, maxmem: 64 * 2 ** 20 } as const;

const keyOf = (passphrase: string, salt: Uint8Array) => scryptSync(passphrase.normalize("NFKC"), salt, 32, COST);

/** Seals a backup under a passphrase: AES-256-GCM. */
export function sealed(bytes: Uint8Array, passphrase: string): Uint8Array {
  const [salt, nonce] = [randomBytes(SALT_BYTES), randomBytes(NONCE_BYTES)];
  const cipher = createCipheriv("aes-256-gcm", keyOf(passphrase, salt), nonce).setAAD(MARK);
  const body = Buffer.concat([cipher.update(bytes), cipher.final()]);
  return Buffer.concat([MARK, salt, nonce, cipher.getAuthTag(), body]);
}

/** A backup's packed bytes, opened where they are sealed. Throws NoBackup for a seal that the passphrase does not open. */
export function openedBackup(path: string, passphrase: string): Uint8Array {
  const bytes = readFileSync(path);
  if (!bytes.subarray(0, MARK.length).equals(MARK)) return bytes;
  if (passphrase === "")
    throw new NoBackup("the backup is sealed: start Tejado with its passphrase in TEJADO_BACKUP_PASSPHRASE");
  let at = MARK.length;
  const next = (length: number) => bytes.subarray(at, (at += length));
  const [salt, nonce, tag] = [next(SALT_BYTES), next(NONCE_BYTES), next(TAG_BYTES)];
  try {
    const cipher = createDecipheriv("aes-256-gcm", keyOf(passphrase, salt), nonce).setAAD(MARK);
    cipher.setAuthTag(tag);
    return Buffer.concat([cipher.update(bytes.subarray(at)), cipher.final()]);
  } catch {
    throw new NoBackup("the backup was sealed with another passphrase, or is damaged");
  }
}

/** What a backup may unpack to. A database packs to a tenth; its logs, full of zeros, far better. */
const BOUNDS = { totalBytes: 32e9, entries: 200_000, ratio: 60, freeBytes: 512 * 2 ** 20 } as const;

/** What was found in a backup. */
export interface Inspected {
  entries: number;
  bytes: number;
}

/** Opens a backup's packed bytes and counts what is in them, piece by piece. Throws NoBackup for what is no whole database, or a bomb. */
export async function inspected(packed: Uint8Array): Promise<Inspected> {
  const most = Math.min(BOUNDS.totalBytes, BOUNDS.freeBytes + BOUNDS.ratio * packed.length);
  let [entries, bytes, isDatabase] = [0, 0, false];
  let refusal: NoBackup | null = null;
  const refuse = (message: string): NoBackup => (refusal ??= new NoBackup(message));
  const files = extract();
  files.on("entry", ({ name, size = 0 }, content, next) => {
    // What breaks off is told by the pipeline.
    content.on("error", () => undefined);
    entries++;
    bytes += size;
    if (/(^|\/)PG_VERSION$/.test(name)) isDatabase = true;
    if (entries > BOUNDS.entries) return files.destroy(refuse(`the file holds more than ${BOUNDS.entries} entries`));
    if (bytes > most) return files.destroy(refuse(`the file unpacks to more than ${most} bytes, which no backup does`));
    content.on("end", next).resume();
  });
  let unpacked = 0;
  const gunzip = createGunzip();
  gunzip.on("data", (chunk: Buffer) => {
    unpacked += chunk.length;
    if (unpacked > most) gunzip.destroy(refuse(`the file unpacks to more than ${most} bytes, which no backup does`));
  });
  try {
    await pipeline(Readable.from(pieces(packed)), gunzip, files);
  } catch (error) {
    throw refusal ?? new NoBackup("the file is damaged, cut off, or no backup", { cause: error });
  }
  if (!isDatabase) throw new NoBackup("the file holds no database");
  return { entries, bytes };
}

const PIECE = 256 * 1024;
function* pieces(bytes: Uint8Array): Generator<Uint8Array> {
  for (let at = 0; at < bytes.length; at += PIECE) yield bytes.subarray(at, at + PIECE);
}
