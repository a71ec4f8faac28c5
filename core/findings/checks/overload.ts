import { figure } from "../../words";
import { gentler } from "../linkChanges";
import type { Check } from "./check";

export const overload: Check = {
  id: "overload",
  title: "Receiver overloaded",
  stage: "paths",
  isBreaking: true,
  mustGo: true,
  ofPath: ({ ways }) =>
    ways.flatMap(([{ overloadDb, chainLevelDbm, question }]) => {
      if (overloadDb <= 0) return [];
      const { from, to } = question;
      return [
        {
          radioId: from.radio.id,
          what: `${figure(chainLevelDbm)} dBm on a chain at ${to.placeName}, ${overloadDb.toFixed(1)} dB more than the ${figure(to.model.overloadDbm)} dBm its receiver stands: turn ${from.radio.name} down to ${figure(from.radio.txPowerDbm - overloadDb)} dBm or less`,
          why: "An overloaded receiver hears nothing right, and a far stronger one is damaged.",
          figure: { value: overloadDb, unit: "dB" },
          cause: null,
        },
      ];
    }),
  candidates: gentler,
};
