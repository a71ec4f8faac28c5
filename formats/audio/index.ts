import { refusedUsually } from "../refused";

/** Thrown for bytes that are no recording. */
export class AudioError extends refusedUsually("Record it with the phone’s browser.") {}

/** The files that browsers record speech into, each by the bytes that it begins with. */
const SIGNS = [
  { type: "audio/webm", at: 0, sign: [0x1a, 0x45, 0xdf, 0xa3] },
  { type: "audio/ogg", at: 0, sign: [0x4f, 0x67, 0x67, 0x53] },
  { type: "audio/mp4", at: 4, sign: [0x66, 0x74, 0x79, 0x70] },
] as const;
type AudioType = (typeof SIGNS)[number]["type"];

/** What kind of recording some bytes are, by what they begin with, whatever they are called. Throws AudioError. */
export function audioType(bytes: Uint8Array): AudioType {
  const found = SIGNS.find(({ at, sign }) => sign.every((byte, i) => bytes[at + i] === byte));
  if (found) return found.type;
  const head = [...bytes.subarray(0, 8)].map((byte) => byte.toString(16).padStart(2, "0")).join(" ") || "nothing";
  throw new AudioError(`byte 0: a WebM, Ogg or MP4 recording should begin here, found ${head}`);
}
