import { peakGainDbi, type AntennaModel } from "../antenna";
import { endOf, type LinkEnd, type Outsider, type World, USUAL } from "../plan";
import type { RadioModel } from "../radio";

const EVERYWHERE = { anglesDeg: [-180, 0, 180], lossDb: [0, 0, 0] };

/** What an outsider radiates with of whose antenna nothing is known: alike in all directions. */
const ALL_ROUND: AntennaModel = {
  ...{ id: "", maker: "", model: "all round", shape: "omni", bandMHz: [1, 300_000] },
  gainAcrossBand: [{ frequencyMHz: 1000, hDbi: 0, vDbi: 0 }],
  azimuthCuts: { H: EVERYWHERE, V: EVERYWHERE },
  elevationCuts: { H: EVERYWHERE, V: EVERYWHERE },
  deliveryDays: null,
  ...{ frontToBackDb: 0, electricalTiltDownDeg: 0, bracketUpDeg: 90, bracketDownDeg: 90, crossPolarDb: 20 },
  ...{ weightKg: 1, priceEur: 0, receiveBeam: null, join: null },
};

/** Nothing is known of its radio but that it sends on two polarizations; what it hears nobody asks. */
const UNKNOWN_RADIO: RadioModel = {
  ...{ id: "", maker: "", model: "unknown", use: "bridge", bandMHz: [1, 300_000], widthsMHz: [20], rasterMHz: 1 },
  ...{
    powerMinDbm: -40,
    powerMaxDbm: 40,
    powerStepDb: 1,
    powerSetting: "total",
    noiseFigureDb: 6,
    chains: 2,
    modulations: [],
  },
  ...{ duplex: "TDD", duplexSpacingMHz: null, downShare: 0.5, efficiency: 1, overloadDbm: 10, rangeLimitKm: 1000 },
  ...{
    adjacentRejectionDb: 0,
    portMbps: null,
    ports: [],
    steersBeam: false,
    joins: [],
    boxAddress: "192.168.1.20/24",
    poleMm: [1, 1000],
    alignmentAid: "none",
    clientLimit: 1,
  },
  ...{
    powerInput: "dc48",
    meterVoltsPerDbm: null,
    loadW: 1,
    startW: null,
    earthMm2: 6,
    box: [],
    weightKg: 1,
    priceEur: 0,
  },
  deliveryDays: null,
};

/** An outsider as if it were an end of the plan: at the mean power that it radiates over time, on both polarizations, level. */
export function outsiderEnd(world: World, outsider: Outsider): LinkEnd {
  const { id, planId, name, heightM, azimuthDeg, antennaModelId, frequencyMHz, widthMHz, eirpDbm, timeShare } =
    outsider;
  const antenna = world.antennaModels.get(antennaModelId ?? "") ?? ALL_ROUND;
  return {
    radio: {
      ...{ id, planId, name, siteId: null, subscriberId: null, role: "bridge", radioModelId: "", carrierId: "" },
      ...{ antennaModelId: antenna.id, heightM, azimuthDeg: azimuthDeg ?? 0, tiltDownDeg: 0, bracketTurned: false },
      ...{ polarization: "HV", frequencyMHz, widthMHz, cableLossDb: 0, interferenceDb: 0, ethernetM: 0 },
      ...{ injector: "none", address: "", ...USUAL.radios },
      txPowerDbm: eirpDbm - peakGainDbi(antenna, frequencyMHz, "HV") + 10 * Math.log10(timeShare),
    },
    ...{ model: UNKNOWN_RADIO, antenna, place: outsider, placeName: name, maxHeightM: heightM, behind: "none" },
    ...{ hazards: "", access: "", demand: null, scans: [] },
  };
}

/** The end at a transmitter, of the plan's own or of an outsider. */
export function transmitterAt(world: World, id: string): LinkEnd {
  const outsider = world.outsiders.get(id);
  return outsider && !world.radios.has(id) ? outsiderEnd(world, outsider) : endOf(world, id);
}
