import { createHash } from "node:crypto";
import type { World } from "#core/plan";
import { endOf } from "#core/plan";
import { benchLevel, leaders } from "#core/staging";

/** A device in its box, as it was delivered for a radio of a plan. */
export interface BoxedDevice {
  serial: string;
  radioId: string;
  model: string;
  /** With its prefix length. */
  boxAddress: string;
  firmware: string;
  /** Most that it hears of the one that it joins, with that one's power down, dBm; null for one that joins nobody. */
  hearsAtMostDbm: number | null;
  chains: number;
  /** Net rate over the bench, Mbit/s. */
  mbps: number;
}

/** What leaves the makers today, and what lay on the shelf for a while. */
const NEW_FIRMWARE = "4.2.1";
const OLD_FIRMWARE = "3.9.0";
/** One box in so many holds the older version. */
const OLD_EVERY = 5;

const numberOf = (text: string) => createHash("sha256").update(text).digest().readUInt32BE(0);

/** One box for every radio of a plan, the same ones each time: some hold another firmware than their access point, as deliveries do. */
export function boxesOf(world: World): BoxedDevice[] {
  const leaderOf = leaders(world);
  return [...world.radios.values()].map((radio) => {
    const end = endOf(world, radio.id);
    const leaderId = leaderOf.get(radio.id);
    const drawn = numberOf(`${world.plan.id} ${radio.id}`);
    return {
      serial: `PX${drawn.toString(36).toUpperCase().padStart(7, "0")}`,
      radioId: radio.id,
      model: `${end.model.maker} ${end.model.model}`,
      boxAddress: end.model.boxAddress,
      firmware: radio.firmware || (drawn % OLD_EVERY === 0 ? OLD_FIRMWARE : NEW_FIRMWARE),
      hearsAtMostDbm: leaderId === undefined ? null : benchLevel(endOf(world, leaderId), end).atMostDbm,
      chains: end.model.chains,
      mbps: Math.min(end.model.portMbps ?? 100, 400),
    };
  });
}
