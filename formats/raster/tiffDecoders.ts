import { inflateSync } from "node:zlib";
import { addDecoder, BaseDecoder } from "geotiff";
import { ZSTDDecoder } from "zstddec";
import { RasterError } from "./error";
import { unpackLzw } from "./lzw";

/** Directories of files whose numbers stand with their high byte first. */
const bigEndian = new WeakSet<object>();
export function markBigEndian(directory: object): void {
  bigEndian.add(directory);
}

type AddDecoder = Parameters<typeof addDecoder>;
interface BlockParameters {
  tileWidth: number;
  tileHeight: number;
  planarConfiguration: number;
  bitsPerSample: number | ArrayLike<number>;
  predictor: number;
  isBigEndian?: boolean;
  /** Rows of the shortest block: a last strip need not be full. */
  leastRows?: number;
}

/** Every number's bytes the other way round, in place. */
function swapBytes(bytes: Uint8Array, width: number): void {
  if (width === 2) Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength & ~1).swap16();
  else if (width === 4) Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength & ~3).swap32();
  else if (width === 8) Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength & ~7).swap64();
}

let onBlock: () => Promise<void> = () => Promise.resolve();
/** Has something done after each block that is unpacked, in this process: whoever watches the reading learns that it goes on. */
export function afterBlock(done: () => Promise<void>): void {
  onBlock = done;
}

/**
 * A block unpacked to what its header says it holds: never more, so that a bomb ends there, and never less, so that nothing
 * missing is taken for sea level. The differences of predictor 2 are added up in the file's own byte order.
 */
abstract class CheckedDecoder extends BaseDecoder {
  abstract unpack(packed: Uint8Array, mostBytes: number): Promise<Uint8Array> | Uint8Array;

  private get shape() {
    const { tileWidth, tileHeight, planarConfiguration, bitsPerSample, leastRows } = this
      .parameters as unknown as BlockParameters;
    const bits = typeof bitsPerSample === "number" ? [bitsPerSample] : Array.from(bitsPerSample);
    const sum = planarConfiguration === 2 ? bits[0]! : bits.reduce((total, one) => total + one, 0);
    const rowBytes = Math.ceil((tileWidth * sum) / 8);
    return {
      mostBytes: rowBytes * tileHeight,
      leastBytes: rowBytes * Math.min(tileHeight, leastRows ?? tileHeight),
      sampleBytes: bits[0]! / 8,
    };
  }

  /** Numbers that are turned round for the predictor, which adds up in this machine's order, and back again. */
  private get isSwapped(): boolean {
    const { predictor, isBigEndian } = this.parameters as unknown as BlockParameters;
    return isBigEndian === true && predictor === 2;
  }

  override async decodeBlock(buffer: ArrayBuffer): Promise<ArrayBuffer> {
    const { mostBytes, leastBytes, sampleBytes } = this.shape;
    const out = await this.unpack(new Uint8Array(buffer), mostBytes);
    await onBlock();
    if (out.byteLength < leastBytes)
      throw new RasterError(`a block unpacks to ${out.byteLength} bytes; its rows need ${leastBytes}`);
    if (this.isSwapped) swapBytes(out, sampleBytes);
    return out.buffer.slice(out.byteOffset, out.byteOffset + out.byteLength) as ArrayBuffer;
  }

  override async decode(buffer: ArrayBuffer): Promise<ArrayBuffer> {
    const done = (await super.decode(buffer)) as ArrayBuffer;
    if (this.isSwapped) swapBytes(new Uint8Array(done), this.shape.sampleBytes);
    return done;
  }
}

class Plain extends CheckedDecoder {
  unpack(packed: Uint8Array): Uint8Array {
    return packed;
  }
}

class Deflate extends CheckedDecoder {
  unpack(packed: Uint8Array, mostBytes: number): Uint8Array {
    return inflateSync(packed, { maxOutputLength: Math.max(64, mostBytes) });
  }
}

class Lzw extends CheckedDecoder {
  unpack(packed: Uint8Array, mostBytes: number): Uint8Array {
    return unpackLzw(packed, mostBytes);
  }
}

const zstd = new ZSTDDecoder();
class Zstd extends CheckedDecoder {
  async unpack(packed: Uint8Array, mostBytes: number): Promise<Uint8Array> {
    await zstd.init();
    return zstd.decode(packed, mostBytes);
  }
}

class PackBits extends CheckedDecoder {
  unpack(packed: Uint8Array, mostBytes: number): Uint8Array {
    const out = new Uint8Array(mostBytes);
    let to = 0;
    for (let at = 0; at < packed.length && to < mostBytes;) {
      const head = packed[at++]!;
      if (head < 128) {
        const run = packed.subarray(at, at + head + 1).subarray(0, mostBytes - to);
        out.set(run, to);
        to += run.length;
        at += head + 1;
      } else if (head > 128) {
        out.fill(packed[at++] ?? 0, to, Math.min(mostBytes, to + 257 - head));
        to += Math.min(257 - head, mostBytes - to);
      }
    }
    return out.subarray(0, to);
  }
}

/** What a decoder needs to know of a file's blocks. */
async function parametersOf(directory: {
  hasTag(tag: string): boolean;
  loadValue(tag: string): Promise<unknown>;
}): Promise<BlockParameters> {
  const number = async (tag: string) => (await directory.loadValue(tag)) as number;
  const isTiled = !directory.hasTag("StripOffsets");
  const height = await number("ImageLength");
  const tileHeight = isTiled ? await number("TileLength") : Math.min(height, (await number("RowsPerStrip")) || height);
  return {
    tileWidth: await number(isTiled ? "TileWidth" : "ImageWidth"),
    tileHeight,
    planarConfiguration: (await number("PlanarConfiguration")) || 1,
    bitsPerSample: (await directory.loadValue("BitsPerSample")) as ArrayLike<number>,
    predictor: (await number("Predictor")) || 1,
    isBigEndian: bigEndian.has(directory),
    leastRows: isTiled ? tileHeight : height % tileHeight || tileHeight,
  };
}

for (const [codes, decoder] of [
  [[undefined, 1], Plain],
  [[8, 32946], Deflate],
  [[5], Lzw],
  [[32773], PackBits],
  [[50000], Zstd],
] as const)
  addDecoder(
    [...codes] as number[],
    () => Promise.resolve(decoder as unknown as typeof BaseDecoder),
    parametersOf as unknown as NonNullable<AddDecoder[2]>,
    false,
  );
