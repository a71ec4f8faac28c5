import { limitReason, overCap } from "../../regulation";
import { turnedDown } from "../linkChanges";
import { ownCause, type Check } from "./check";

export const overEirp: Check = {
  id: "overEirp",
  title: "Over the cap",
  stage: "paths",
  isBreaking: true,
  mustGo: true,
  ofPath: ({ ways }) =>
    ways.flatMap(([{ limit, eirpDbm }, end]) => {
      const over = limit.covered ? overCap({ eirpDbm, txPowerDbm: end.radio.txPowerDbm }, limit) : null;
      if (!over) return [];
      return [
        {
          radioId: end.radio.id,
          what: `${over.words}: turn down by ${over.byDb.toFixed(1)} dB`,
          why: `${limit.source}: ${limitReason(limit)}.`,
          figure: { value: over.byDb, unit: "dB" },
          cause: ownCause(end),
        },
      ];
    }),
  candidates: turnedDown,
};
