import { peakGainDbi } from "../antenna";
import { pointingOf, tiltDownDeg } from "../aiming";
import { inverseGeodesic } from "../geodesy";
import { beamOfHeardDb, receivedShare, receiveBeamOf, tapeWriter, wallDb, type TapeLine } from "../link";
import { couplingOf } from "../mast";
import { endOf, type Link, type LinkEnd, type World } from "../plan";
import { freeSpaceLossDb } from "../propagation";
import { figure } from "../words";
import { gainTowardDbi, type Aim } from "./aims";
import { candidatesFor, type Candidate } from "./candidates";
import { groundLossDb, type KnownProfile } from "./hearing";
import { transmitterAt } from "./outsiders";
import { listensInMHz, thermalDbmAt, type Listening } from "./listening";

/** How one transmitter of the plan arrives at a receiver that does not want it, line by line. */
export interface HeardTape {
  radioId: string;
  name: string;
  placeName: string;
  lines: TapeLine[];
  /** On one chain of the receiver, within its channel. */
  arrivingDbm: number;
}

/**
 * The tape of a transmitter at one end of a link: power, both gains in the true direction, the path between, polarization, the
 * overlap of the channels. Null where it is too weak to be looked at. The sum is what the tape's own noise counts of it.
 */
export function heardTape(
  listening: Listening,
  link: Link,
  receiverId: string,
  radioId: string,
  profileBetween: KnownProfile,
): HeardTape | null {
  const { world } = listening;
  const candidate = candidatesFor(listening, link, endOf(listening.world, receiverId)).find(
    ({ told }) => told.radioId === radioId,
  );
  if (!candidate) return null;
  const [from, to] = [transmitterAt(world, radioId), endOf(world, receiverId)];
  const lines = linesOf(world, link, from, to, candidate, profileBetween);
  const { name, placeName } = candidate.told;
  return { radioId, name, placeName, lines, arrivingDbm: lines.at(-1)!.total! };
}

function linesOf(
  world: World,
  link: Link,
  from: LinkEnd,
  to: LinkEnd,
  { told, fromAim, toAim, bearingDeg }: Candidate,
  profileBetween: KnownProfile,
): TapeLine[] {
  const { frequencyMHz, widthMHz } = told;
  const frequencyGHz = frequencyMHz / 1000;
  const { lines, line, state, total } = tapeWriter();
  const listensMHz = listensInMHz(to, link);
  const share = receivedShare(from, to, { frequencyMHz, widthMHz }, listensMHz);
  const takes = (key: string, label: string, lossDb: number, source: string) => {
    if (lossDb > 0) line(key, label, -lossDb, "as planned", [], source);
  };
  line("power", `${from.radio.name} sends`, from.radio.txPowerDbm, "as set on the radio", [], "plan");
  takes("cable", `Cable at ${from.placeName}`, from.radio.cableLossDb, "plan");
  takes("wall", `Out of ${from.placeName}`, wallDb(from, frequencyGHz), "ITU-R P.2109-1");
  if (bearingDeg === null) {
    const headingOf = (end: LinkEnd, { bearingDeg }: Aim) => end.radio.azimuthDeg ?? bearingDeg;
    const coupled = couplingOf(from, headingOf(from, fromAim), to, headingOf(to, toAim), frequencyMHz);
    line(
      "mast",
      "Coupling on the mast",
      -coupled.isolationDb,
      coupled.isFree
        ? "free space over the slant distance less both gains in that direction: the rule for near antennas would say more"
        : "horizontal and vertical isolation, slant between them, less both gains toward each other",
      [
        ["up or down", `${figure(coupled.verticalM)} m`],
        ["sideways", `${figure(coupled.horizontalM)} m`],
        ["gains toward each other", `${figure(coupled.fromGainDbi)} and ${figure(coupled.toGainDbi)} dBi`],
      ],
      coupled.isFree ? "ITU-R P.525" : "Report ITU-R M.2244",
    );
  } else {
    const { distanceM, azimuthDeg, backAzimuthDeg } = inverseGeodesic(from.place, to.place);
    const profile = profileBetween(from.place, to.place);
    const known = profile && !profile.holes ? profile : undefined;
    const tilts = known && tiltsOver(known, from, to, world.plan.kFactor);
    const gain = (key: string, end: LinkEnd, aim: Aim, other: LinkEnd, bearingDeg: number, tiltDeg: number | null) =>
      line(
        key,
        `${end.placeName}'s gain toward ${other.placeName}`,
        gainTowardDbi(end, aim, frequencyMHz, bearingDeg, tiltDeg),
        "peak gain less what both cuts lose in that very direction",
        [
          ["bearing", `${figure(bearingDeg)}°`],
          ["below the horizontal", tiltDeg === null ? "not known" : `${figure(tiltDeg)}°`],
          ["at its peak", `${figure(peakGainDbi(end.antenna, frequencyMHz, end.radio.polarization))} dBi`],
        ],
        "antenna sheet",
      );
    gain("fromGain", from, fromAim, to, azimuthDeg, tilts ? tilts.down : null);
    line(
      "freeSpace",
      "Free space",
      -freeSpaceLossDb({ distanceKm: distanceM / 1000, frequencyGHz }),
      "92.45 + 20 log d + 20 log f",
      [
        ["distance", `${figure(distanceM / 1000, 2)} km`],
        ["frequency", `${frequencyMHz} MHz`],
      ],
      "ITU-R P.525",
    );
    if (known)
      line(
        "ground",
        "Ground between",
        -groundLossDb(world, from, to, frequencyMHz, known),
        "delta-Bullington over the terrain",
        [],
        "ITU-R P.526-15",
      );
    gain("toGain", to, toAim, from, backAzimuthDeg, tilts ? tilts.back : null);
  }
  takes("ownCable", `Cable at ${to.placeName}`, share.cableDb, "plan");
  takes("ownWall", `Into ${to.placeName}`, share.wallDb, "ITU-R P.2109-1");
  takes("polarization", "Polarizations differ", share.polarizationDb, "antenna sheet");
  if (share.splitDb > 0) line("chain", "On one chain", -share.splitDb, "the power of all chains, shared", [], "plan");
  const beam = receiveBeamOf(to);
  if (beam)
    line(
      "beam",
      "Receive beam on the customer",
      beamOfHeardDb(beam, pointingOf(to, toAim.bearingDeg, 0), { bearingDeg }),
      "the beam looks at the customer; gain over the ordinary pattern, less 12·(off ÷ width)² down to its side lobes",
      [["customer at", `${figure(toAim.bearingDeg)}°`]],
      "antenna sheet; 3GPP TR 36.814",
    );
  line(
    "overlap",
    "Channels overlap",
    share.channelDb,
    "share of its emission mask within the receiver's channel, and what its filter lets in from beside",
    [
      ["sends on", `${frequencyMHz} MHz, ${widthMHz} wide`],
      ["listens on", `${listensMHz} MHz, ${to.radio.widthMHz} wide`],
      ["filter rejects next door", `${figure(to.model.adjacentRejectionDb)} dB`],
    ],
    "emission mask; radio sheet",
  );
  state(
    "arrives",
    "Arrives on one chain",
    total(),
    "dBm",
    "the sum; taken as sending whenever the receiver listens, unless both keep one time",
    [["thermal noise there", `${figure(thermalDbmAt(to))} dBm`]],
    "the lines above",
  );
  return lines;
}

function tiltsOver(
  { groundAmslM, distanceM }: { groundAmslM: Float64Array | Float32Array; distanceM: number },
  from: LinkEnd,
  to: LinkEnd,
  kFactor: number,
): { down: number; back: number } {
  const fromAmslM = groundAmslM[0]! + from.radio.heightM;
  const toAmslM = groundAmslM[groundAmslM.length - 1]! + to.radio.heightM;
  return {
    down: tiltDownDeg(fromAmslM, toAmslM, distanceM, kFactor),
    back: tiltDownDeg(toAmslM, fromAmslM, distanceM, kFactor),
  };
}
