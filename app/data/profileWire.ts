import { inverseGeodesic, placesAlong, type Place } from "#core/geodesy";
import type { Profile } from "#core/terrain";

/** A profile as it travels: only what the browser cannot work out itself, as base64 of typed arrays, exact to the bit. */
export interface ProfileWire {
  from: Place;
  to: Place;
  /** Float64 */
  ground: string;
  /** Float64 */
  coverHeight: string;
  /** One byte each */
  coverCode: string;
  holes: Profile["holes"];
}

const CHUNK = 0x8000;

function toBase64(array: Float64Array | Uint8Array): string {
  const bytes = new Uint8Array(array.buffer, array.byteOffset, array.byteLength);
  let binary = "";
  for (let i = 0; i < bytes.length; i += CHUNK) binary += String.fromCharCode(...bytes.subarray(i, i + CHUNK));
  return btoa(binary);
}

function fromBase64(text: string): Uint8Array {
  return Uint8Array.from(atob(text), (letter) => letter.charCodeAt(0));
}

export function profileToWire(profile: Profile): ProfileWire {
  const { from, to, holes } = profile;
  return {
    from: { latDeg: from.latDeg, lonDeg: from.lonDeg },
    to: { latDeg: to.latDeg, lonDeg: to.lonDeg },
    ground: toBase64(profile.groundAmslM),
    coverHeight: toBase64(profile.coverHeightM),
    coverCode: toBase64(profile.coverCode),
    holes,
  };
}

export function profileFromWire({ from, to, ground, coverHeight, coverCode, holes }: ProfileWire): Profile {
  const groundAmslM = new Float64Array(fromBase64(ground).buffer);
  const count = groundAmslM.length;
  const line = inverseGeodesic(from, to);
  const distancesKm = new Float64Array(count);
  const spacingKm = line.distanceM / (count - 1) / 1000;
  for (let i = 0; i < count; i++) distancesKm[i] = i * spacingKm;
  distancesKm[count - 1] = line.distanceM / 1000;
  return {
    from,
    to,
    ...line,
    ...placesAlong(from, to, count, line),
    distancesKm,
    groundAmslM,
    coverHeightM: new Float64Array(fromBase64(coverHeight).buffer),
    coverCode: fromBase64(coverCode),
    holes,
  };
}
