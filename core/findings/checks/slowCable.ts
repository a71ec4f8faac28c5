import { CABLES } from "../../power";
import { setPatch } from "../../plan";
import { figure } from "../../words";
import { mending } from "../kit/radios";
import type { Check } from "./check";

export const slowCable: Check = {
  id: "slowCable",
  title: "Cable slower than the link",
  stage: "kit",
  ofPath: ({ a, b, ways }) => {
    const most = Math.max(...ways.map(([tape]) => tape.rateMbps));
    return [a, b].flatMap((end) => {
      const { mostMbps } = CABLES[end.radio.cableKind];
      if (most <= mostMbps) return [];
      return [
        {
          radioId: end.radio.id,
          what: `${CABLES[end.radio.cableKind].name} carries ${figure(mostMbps, 0)} Mbit/s at ${end.placeName}, the link ${figure(most, 0)}`,
          why: "Category 5e ends at 1 Gbit/s, 6A at 10; fibre carries more than any radio.",
          figure: { value: most - mostMbps, unit: "Mbit/s" },
          cause: null,
        },
      ];
    });
  },
  remedies: (world, { radioId, figure: over }) => {
    const radio = world.radios.get(radioId ?? "");
    if (!radio || !over) return [];
    const neededMbps = CABLES[radio.cableKind].mostMbps + over.value;
    return mending(
      world,
      (["cat6a", "fibre"] as const).map((cableKind) => ({
        label: `Lay ${cableKind === "fibre" ? "fibre" : "cable of category 6A"}`,
        effect: `${figure(CABLES[cableKind].mostMbps / 1000, 0)} Gbit/s`,
        patches: [setPatch("radios", radio.id, { cableKind })],
      })),
      (then) => CABLES[then.radios.get(radio.id)!.cableKind].mostMbps < neededMbps,
    );
  },
};
