/** What a JSON text may hold, whoever sent it; the largest change of a plan (25 000 rows) stays well below each. */
const JSON_BOUNDS = {
  /** Lists and objects within one another. */
  nested: 100,
  /** Lists and objects in all. */
  containers: 250_000,
  /** Values in all: texts, numbers, lists, objects. */
  values: 1_200_000,
  /** Names of fields that differ from one another. */
  names: 5_000,
} as const;
type JsonBound = keyof typeof JSON_BOUNDS;

const WORDS: Record<JsonBound, string> = {
  nested: "lists or objects within one another",
  containers: "lists and objects",
  values: "values",
  names: "different names of fields",
};

const [QUOTE, BACKSLASH, COLON, COMMA] = [0x22, 0x5c, 0x3a, 0x2c];
const [OPEN_LIST, CLOSE_LIST, OPEN_OBJECT, CLOSE_OBJECT] = [0x5b, 0x5d, 0x7b, 0x7d];

/**
 * Counts what a JSON text holds while it arrives, so that one that takes long to parse is refused before anybody parses it: a text of
 * 3 MB can hold a million empty objects. One pass over the bytes; the text need not be JSON.
 */
export class JsonMeter {
  private depth = 0;
  private readonly counts: Record<JsonBound, number> = { nested: 0, containers: 0, values: 0, names: 0 };
  private readonly names = new Set<number>();
  private isInString = false;
  private isEscaped = false;
  /** Of the text that was read last: a colon after it makes it a name. */
  private textHash = 0;

  constructor(private readonly bounds: Record<JsonBound, number> = JSON_BOUNDS) {}

  /** Counts some more bytes. Gives what is too much, as the end of a sentence that begins with the text; null while nothing is. */
  take(bytes: Uint8Array): string | null {
    const { counts, bounds, names } = this;
    let { depth, isInString, isEscaped, textHash } = this;
    for (let i = 0; i < bytes.length; i++) {
      const byte = bytes[i]!;
      if (isInString) {
        if (isEscaped) isEscaped = false;
        else if (byte === BACKSLASH) isEscaped = true;
        else if (byte === QUOTE) isInString = false;
        textHash = Math.imul(textHash ^ byte, HASH_PRIME);
      } else if (byte === QUOTE) {
        isInString = true;
        textHash = HASH_SEED;
      } else if (byte === COMMA) counts.values++;
      else if (byte === COLON) {
        if (names.size <= bounds.names) names.add(textHash);
      } else if (byte === OPEN_LIST || byte === OPEN_OBJECT) {
        counts.values++;
        counts.containers++;
        if (++depth > counts.nested) counts.nested = depth;
      } else if (byte === CLOSE_LIST || byte === CLOSE_OBJECT) depth--;
    }
    counts.names = names.size;
    Object.assign(this, { depth, isInString, isEscaped, textHash });
    for (const bound of Object.keys(WORDS) as JsonBound[])
      if (counts[bound] > bounds[bound]) return `holds over ${bounds[bound]} ${WORDS[bound]}, more than are read`;
    return null;
  }
}
/** Fowler, Noll and Vo's hash FNV-1a, 32 bits (RFC 9923): two names that share one are counted once. */
const [HASH_SEED, HASH_PRIME] = [0x811c9dc5, 0x01000193];
