import { tiltDownDeg } from "../aiming";
import { patternLossDb, peakGainDbi } from "../antenna";
import { inverseGeodesic, type Place } from "../geodesy";
import { endOf, type World } from "../plan";
import { deltaBullingtonLossDb, freeSpaceLossDb } from "../propagation";
import type { HeardEmitter } from "../spectrum";
import type { Profile } from "../terrain";

/** The plan's transmitters on other masts, as they arrive at a site. The site's own links are silent while it listens. */
export function emittersHeard(
  world: World,
  siteId: string,
  profileBetween: (from: Place, to: Place) => Profile,
): HeardEmitter[] {
  const site = world.sites.get(siteId)!;
  const silent = new Set<string>();
  for (const { aRadioId, bRadioId } of world.links.values()) {
    if (world.radios.get(aRadioId)?.siteId === siteId) silent.add(bRadioId);
    if (world.radios.get(bRadioId)?.siteId === siteId) silent.add(aRadioId);
  }
  const heard: HeardEmitter[] = [];
  for (const radio of world.radios.values()) {
    if (radio.siteId === siteId || silent.has(radio.id)) continue;
    const end = endOf(world, radio.id);
    const profile = profileBetween(end.place, site);
    if (profile.holes || profile.distanceM < 20) continue;
    const txAmslM = profile.groundAmslM[0]! + radio.heightM;
    const rxAmslM = profile.groundAmslM.at(-1)! + site.structureHeightM;
    const frequencyGHz = radio.frequencyMHz / 1000;
    const heights = profile.groundAmslM.map((ground, i) => ground + profile.coverHeightM[i]!);
    const diffraction = deltaBullingtonLossDb({
      distancesKm: profile.distancesKm,
      heightsM: heights,
      txAmslM,
      rxAmslM,
      frequencyGHz,
      kFactor: world.plan.kFactor,
      polarization: "V",
    });
    const tilt = tiltDownDeg(txAmslM, rxAmslM, profile.distanceM, world.plan.kFactor);
    const aim = lookOf(world, radio.id, profile.azimuthDeg, tilt);
    const off = patternLossDb(end.antenna, radio.polarization, aim.azimuthOffDeg, aim.elevationOffDeg);
    const eirp = radio.txPowerDbm - radio.cableLossDb + peakGainDbi(end.antenna, radio.frequencyMHz) - off;
    heard.push({
      frequencyMHz: radio.frequencyMHz,
      widthMHz: radio.widthMHz,
      bearingDeg: profile.backAzimuthDeg,
      isotropicDbm: eirp - freeSpaceLossDb({ distanceKm: profile.distanceM / 1000, frequencyGHz }) - diffraction,
      duty: radio.role === "subscriber" ? 0.1 : 0.6,
      polarization: radio.polarization === "H" || radio.polarization === "V" ? radio.polarization : "both",
    });
  }
  return heard;
}

/** How far a radio points past a bearing; one without a direction of its own looks at the other end of its link. */
function lookOf(world: World, radioId: string, bearingDeg: number, tiltDeg: number) {
  const end = endOf(world, radioId);
  let azimuthDeg = end.radio.azimuthDeg;
  if (azimuthDeg === null) {
    const link = [...world.links.values()].find(
      ({ aRadioId, bRadioId }) => aRadioId === radioId || bRadioId === radioId,
    );
    const otherId = link && (link.aRadioId === radioId ? link.bRadioId : link.aRadioId);
    azimuthDeg = otherId ? inverseGeodesic(end.place, endOf(world, otherId).place).azimuthDeg : 0;
  }
  const tiltDown = (end.radio.tiltDownDeg ?? 0) + end.antenna.electricalTiltDownDeg;
  return { azimuthOffDeg: bearingDeg - azimuthDeg, elevationOffDeg: tiltDown - tiltDeg };
}
