import { figure } from "../../words";
import { elsewhere, otherChannels, stronger } from "../linkChanges";
import { ownCause, type Check } from "./check";

export const noise: Check = {
  id: "noise",
  title: "Drowned in noise",
  stage: "channels",
  isSearched: true,
  isAboutLevel: true,
  comesOfLessPower: true,
  ofPath: ({ weaker, toward, wantedDb, isNoise }) => {
    const { noise: heard, question, snrDb, marginLeftDb } = weaker;
    if (!isNoise || heard.source === "own") return [];
    return [
      {
        radioId: question.to.radio.id,
        what: `${figure(snrDb)} dB of signal to noise on a chain at ${toward}: noise stands ${heard.riseDb.toFixed(1)} dB above thermal (${heard.reason})`,
        why: `Without it ${figure(marginLeftDb + heard.riseDb)} dB of margin would be left, of ${wantedDb} wanted; with it ${figure(marginLeftDb)}.`,
        figure: { value: heard.riseDb, unit: "dB" },
        cause: ownCause(question.to),
      },
    ];
  },
  *candidates(bench) {
    yield* otherChannels(bench, bench.link.aRadioId);
    yield* stronger(bench);
    yield* elsewhere(bench);
  },
};
