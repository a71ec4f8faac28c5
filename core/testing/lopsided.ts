import type { AntennaModel } from "../antenna";
import { antennaModelSchema } from "../antenna";
import { plainTerrain, sampleProfile } from "../terrain";
import { town } from "./towns";
import { radioIn, valley, valleyFrame, valleySurface, type Valley, type ValleyRows } from "./valley";

/** A town in which no two ends are alike: cables, tilts, noise and heights differ, and patterns lean to one side. */
export function lopsided(rows: ValleyRows): void {
  town(rows);
  rows.radios.forEach((radio, i) => {
    radio.cableLossDb = 0.4 + 0.3 * i;
    radio.interferenceDb = (i % 3) * 1.5;
    radio.txPowerDbm -= i % 4;
    if (radio.role === "sector")
      Object.assign(radio, { tiltDownDeg: 1.5 + i, azimuthDeg: (radio.azimuthDeg ?? 0) + 7 });
  });
  radioIn(rows, "west-east").heightM = 27;
  radioIn(rows, "east-west").heightM = 16;
  for (const item of rows.equipment) {
    if (item.kind !== "antenna") continue;
    const antenna = antennaModelSchema.parse(item.body);
    item.body = { ...leaning(antenna), electricalTiltDownDeg: antenna.shape === "sector" ? 3.5 : 0.5 };
  }
}

/** An antenna that loses more to the right of its axis than to the left. */
function leaning(antenna: AntennaModel): AntennaModel {
  const lean = ({ anglesDeg, lossDb }: AntennaModel["azimuthCuts"]["H"]) => ({
    anglesDeg,
    lossDb: lossDb.map((loss, i) => (anglesDeg[i]! > 0 && anglesDeg[i]! < 180 ? loss * 1.3 + 0.1 : loss)),
  });
  const { H, V } = antenna.azimuthCuts;
  return { ...antenna, azimuthCuts: { H: lean(H), V: lean(V) } };
}

/** An antenna as it looks in a mirror. */
function mirrored(antenna: AntennaModel): AntennaModel {
  const flip = ({ anglesDeg, lossDb }: AntennaModel["azimuthCuts"]["H"]) => ({
    anglesDeg: anglesDeg.map((angle) => -angle).reverse(),
    lossDb: [...lossDb].reverse(),
  });
  const { H, V } = antenna.azimuthCuts;
  return { ...antenna, azimuthCuts: { H: flip(H), V: flip(V) } };
}

/** The valley, which lies south of the equator, and its mirror image as far north of it: every link there is worth the same. */
export function valleyAndTwin(ridgeM: number, change: (rows: ValleyRows) => void): { south: Valley; north: Valley } {
  const south = valley(ridgeM, change);
  const frame = valleyFrame;
  const southDeg = frame.northDeg - frame.rows * frame.cellLatDeg;
  const ground = plainTerrain(valleySurface(ridgeM, { ...frame, northDeg: -southDeg }));
  const north = valley(ridgeM, (rows) => {
    change(rows);
    for (const row of [...rows.sites, ...rows.subscribers]) row.latDeg = -row.latDeg;
    for (const radio of rows.radios)
      if (radio.azimuthDeg !== null) radio.azimuthDeg = (180 - radio.azimuthDeg + 360) % 360;
    for (const item of rows.equipment)
      if (item.kind === "antenna") item.body = mirrored(antennaModelSchema.parse(item.body));
  });
  return { south, north: { ...north, between: (from, to) => sampleProfile(ground, from, to) } };
}
