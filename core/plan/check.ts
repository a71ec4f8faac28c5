import { counted } from "../words";
import { endOf } from "./ends";
import { withEdits, type Edit, type World } from "./world";

/** Something a change asks for that cannot be built or does not exist. */
export interface EditProblem {
  kind: Edit["kind"];
  id: string;
  field: string;
  message: string;
}

/** What stands against keeping `edits`: heights above a structure, radios outside their own limits, ends that are missing. */
export function checkEdits(world: World, edits: readonly Edit[]): EditProblem[] {
  const next = withEdits(world, edits);
  const problems: EditProblem[] = [];
  for (const edit of edits) {
    const add = (field: string, message: string) => problems.push({ kind: edit.kind, id: edit.id, field, message });
    if (edit.kind === "links" && edit.row) {
      for (const [field, id] of [
        ["aRadioId", edit.row.aRadioId],
        ["bRadioId", edit.row.bRadioId],
      ] as const) {
        if (!next.radios.has(id)) add(field, `the link ends at radio ${id}, which is not in the plan`);
      }
    }
    if (edit.kind === "equipment" && edit.row === null) {
      const using = [...next.radios.values()].filter(
        ({ antennaModelId, radioModelId }) => antennaModelId === edit.id || radioModelId === edit.id,
      );
      if (using.length > 0)
        add("id", `${edit.id} is in use by ${counted(using.length, "radio")}, ${using[0]!.name} first`);
    }
    if (edit.kind !== "radios" || !edit.row) continue;
    const radio = edit.row;
    const { model, antenna, maxHeightM, placeName } = endOf(next, radio.id);
    if (radio.heightM > maxHeightM)
      add("heightM", `${radio.name}: ${radio.heightM} m is above the ${maxHeightM} m that ${placeName} offers`);
    for (const [what, band] of [
      ["radio", model.bandMHz],
      ["antenna", antenna.bandMHz],
    ] as const) {
      if (radio.frequencyMHz < band[0] || radio.frequencyMHz > band[1]) {
        add(
          "frequencyMHz",
          `${radio.name}: ${radio.frequencyMHz} MHz is outside the ${what}'s ${band[0]}–${band[1]} MHz`,
        );
      }
    }
    if (radio.txPowerDbm < model.powerMinDbm || radio.txPowerDbm > model.powerMaxDbm) {
      add(
        "txPowerDbm",
        `${radio.name}: ${radio.txPowerDbm} dBm is outside the radio's ${model.powerMinDbm} to ${model.powerMaxDbm} dBm`,
      );
    }
    if (!model.widthsMHz.includes(radio.widthMHz)) {
      add(
        "widthMHz",
        `${radio.name}: ${radio.widthMHz} MHz is not one of the radio's widths (${model.widthsMHz.join(", ")} MHz)`,
      );
    }
  }
  return problems;
}
