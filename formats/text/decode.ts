/** Text of a file and the encoding it was found to be in. */
interface DecodedText {
  text: string;
  encoding: "UTF-8" | "UTF-16" | "Windows-1252";
}

/** Decodes a text file: by its byte order mark, else as UTF-8 where that is valid, else as Windows-1252, which reads any bytes. */
export function decodeText(bytes: Uint8Array): DecodedText {
  if ((bytes[0] === 0xff && bytes[1] === 0xfe) || (bytes[0] === 0xfe && bytes[1] === 0xff)) {
    const label = bytes[0] === 0xff ? "utf-16le" : "utf-16be";
    return { text: new TextDecoder(label).decode(bytes), encoding: "UTF-16" };
  }
  try {
    return { text: new TextDecoder("utf-8", { fatal: true }).decode(bytes), encoding: "UTF-8" };
  } catch {
    return { text: new TextDecoder("windows-1252").decode(bytes), encoding: "Windows-1252" };
  }
}
