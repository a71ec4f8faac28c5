import type { PathAnswer } from "#core/link";
import { coverKind, type Profile } from "#core/terrain";
import { earthBulgeM, fresnelRadiusM } from "#core/propagation";
import { writeCsv } from "../text";

/** A section as CSV: ground, cover, the ray over the bulging earth, and the lower edge of 60 % of the first zone. */
export function writeSectionCsv(profile: Profile, path: PathAnswer, frequencyGHz: number, kFactor: number): string {
  const { distancesKm, latDeg, lonDeg, groundAmslM, coverHeightM, coverCode } = profile;
  const last = distancesKm.length - 1;
  const pathKm = distancesKm[last]!;
  const rows = Array.from(distancesKm, (fromKm, i) => {
    const toKm = pathKm - fromKm;
    const isEnd = i === 0 || i === last;
    const bulgeM = isEnd ? 0 : earthBulgeM({ fromKm, toKm, kFactor });
    const rayAmslM = path.aAmslM + ((path.bAmslM - path.aAmslM) * fromKm) / pathKm - bulgeM;
    const zoneM = isEnd ? 0 : fresnelRadiusM({ fromKm, toKm, frequencyGHz });
    const fixed = (value: number, decimals: number) => Number(value.toFixed(decimals));
    return [
      fixed(fromKm, 5),
      fixed(latDeg[i]!, 7),
      fixed(lonDeg[i]!, 7),
      fixed(groundAmslM[i]!, 2),
      coverKind(coverCode[i]!),
      fixed(coverHeightM[i]!, 1),
      fixed(rayAmslM, 2),
      fixed(rayAmslM - 0.6 * zoneM, 2),
    ];
  });
  return writeCsv(
    [
      "distance_km",
      "lat_deg",
      "lon_deg",
      "ground_amsl_m",
      "cover",
      "cover_height_m",
      "ray_above_bulge_amsl_m",
      "zone60_edge_amsl_m",
    ],
    rows,
  );
}
