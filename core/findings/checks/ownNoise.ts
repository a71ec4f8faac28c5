import { heardName, type HeardRadio, type Tape } from "../../link";
import { figure } from "../../words";
import { otherChannels } from "../linkChanges";
import type { Check } from "./check";

/** A rise of the noise by the plan's own transmitters from which it is told, dB. */
const OWN_NOISE_DB = 3;

/** How a heard transmitter's channel lies to the receiver's. */
function channelWords(heard: HeardRadio, { question: { path } }: Tape): string {
  const offsetMHz = Math.abs(heard.frequencyMHz - path.frequencyMHz);
  if (offsetMHz === 0) return "the same channel";
  return offsetMHz < (heard.widthMHz + path.widthMHz) / 2 ? "an overlapping channel" : "a channel close by";
}

export const ownNoise: Check = {
  id: "ownNoise",
  title: "Transmitters collide",
  stage: "channels",
  isAboutLevel: true,
  comesOfLessPower: true,
  ofPath: ({ link, ways, weaker, isNoise }) =>
    ways.flatMap(([tape]) => {
      const ownDb = tape.noise.riseDb - tape.noise.outsideDb;
      const heard = tape.question.heard?.radios[0];
      const isCause = isNoise && weaker.noise.source === "own" && tape === weaker;
      if (!heard || (ownDb < OWN_NOISE_DB && !isCause)) return [];
      const { to } = tape.question;
      const isOwnKind = (to.radio.id === link.aRadioId) === (heard.radioId === heard.group);
      // Access points of one timing group send together, and so do their customers; the two kinds hear each other.
      const timing = isOwnKind && heard.placeName !== "" ? "; in one timing group the two would send together" : "";
      return [
        {
          radioId: to.radio.id,
          what: `${heardName(heard)}, on ${channelWords(heard, tape)} (${heard.frequencyMHz} MHz), raises the noise at ${to.placeName} by ${ownDb.toFixed(1)} dB: ${figure(heard.dbm)} dBm on a chain`,
          why: `Taken as sending while ${to.radio.name} listens${timing}. Signal to noise is ${figure(tape.snrDb)} dB, without it ${figure(tape.snrDb + ownDb)} dB.`,
          figure: { value: ownDb, unit: "dB" },
          cause: [link.aRadioId, heard.group].sort().join(" "),
        },
      ];
    }),
  *candidates(bench, fault) {
    const own = bench.link.aRadioId;
    yield* otherChannels(bench, own);
    const other = fault.cause?.split(" ").find((id) => id !== own && bench.world.radios.has(id));
    if (other) yield* otherChannels(bench, other);
  },
};
