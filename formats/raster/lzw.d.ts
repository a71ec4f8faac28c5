declare module "lzw-tiff-decoder" {
  /** Unpacks one LZW block of a TIFF to at most `mostBytes` bytes. */
  export function decompress(packed: Uint8Array, mostBytes: number): Promise<Uint8Array>;
}
