import { inverseGeodesic, placesAlong, type Geodesic, type Place } from "#core/geodesy";
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
  coverFrame: Profile["coverFrame"];
  /** Where samples do not stand evenly: their distances and places, Float64 each, and the edges of what was laid over them. */
  uneven: { distancesKm: string; latDeg: string; lonDeg: string; runEdges: [sample: number, edge: number][] } | null;
}

const CHUNK = 0x8000;

function toBase64(array: Float64Array | Uint8Array): string {
  const bytes = new Uint8Array(array.buffer, array.byteOffset, array.byteLength);
  let binary = "";
  for (let i = 0; i < bytes.length; i += CHUNK) binary += String.fromCharCode(...bytes.subarray(i, i + CHUNK));
  return btoa(binary);
}

const doubles = (text: string) => new Float64Array(fromBase64(text).buffer);

function fromBase64(text: string): Uint8Array {
  const binary = atob(text);
  const bytes = new Uint8Array(binary.length);
  // A loop by hand: profiles come by the hundred, and an iterator over letters is slow.
  for (let i = 0; i < bytes.length; i++) bytes[i] = binary.charCodeAt(i);
  return bytes;
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
    coverFrame: profile.coverFrame,
    uneven: profile.runEdges && {
      distancesKm: toBase64(profile.distancesKm),
      latDeg: toBase64(profile.latDeg),
      lonDeg: toBase64(profile.lonDeg),
      runEdges: [...profile.runEdges],
    },
  };
}

export function profileFromWire(wire: ProfileWire): Profile {
  const { from, to, holes, coverFrame, uneven } = wire;
  const groundAmslM = doubles(wire.ground);
  const line = inverseGeodesic(from, to);
  return {
    from,
    to,
    ...line,
    ...(uneven
      ? {
          distancesKm: doubles(uneven.distancesKm),
          latDeg: doubles(uneven.latDeg),
          lonDeg: doubles(uneven.lonDeg),
          runEdges: new Map(uneven.runEdges),
        }
      : evenPlaces(from, to, groundAmslM.length, line)),
    groundAmslM,
    coverHeightM: doubles(wire.coverHeight),
    coverCode: fromBase64(wire.coverCode),
    coverFrame,
    holes,
  };
}

function evenPlaces(from: Place, to: Place, count: number, line: Geodesic) {
  const distancesKm = new Float64Array(count);
  const spacingKm = line.distanceM / (count - 1) / 1000;
  for (let i = 0; i < count; i++) distancesKm[i] = i * spacingKm;
  distancesKm[count - 1] = line.distanceM / 1000;
  return { distancesKm, ...placesAlong(from, to, count, line), runEdges: null };
}
