import { PART_KIND_WORDS, PART_KINDS, partSchema, type Part } from "#core/plan";
import { plainFigure } from "#core/words";
import { useState } from "react";
import { boundText, Button, Modal, SelectField, TextField } from "../ui";

const NUMBERS = [
  ["packOf", "Sold together", "pieces or m"],
  ["priceEur", "Price of a pack", "€"],
  ["weightKg", "Weight of a piece or metre", "kg"],
] as const;
/** Figures that not every part has; an empty box is none. */
const OPEN_NUMBERS = [
  ["poleFromMm", "Pole from", "mm"],
  ["poleToMm", "Pole to", "mm"],
  ["volts", "Voltage", "V"],
  ["watts", "Power", "W"],
  ["ampereHours", "Charge", "Ah"],
  ["ports", "Sockets that it feeds", ""],
  ["crossSectionMm2", "Thickness of an earth lead", "mm²"],
  ["deliveryDays", "Delivery", "days"],
] as const;
type Typed = Record<string, string>;

/** A part's fields as they stand in their boxes. */
function typedOf({ poleMm, ...part }: Part): Typed {
  const typed: Typed = { poleFromMm: String(poleMm?.[0] ?? ""), poleToMm: String(poleMm?.[1] ?? "") };
  for (const [name, value] of Object.entries(part)) typed[name] = String(value ?? "");
  return typed;
}

/** What is typed as a part is made of, for the schema to judge. */
function partOf(typed: Typed, id: string): unknown {
  const figure = (name: string) => {
    const plain = plainFigure(typed[name] ?? "");
    return plain === "" ? null : Number(plain);
  };
  const { maker, model, kind, unit, standard, notes } = typed;
  const pole = [figure("poleFromMm"), figure("poleToMm")];
  return {
    ...{ id, maker: maker?.trim(), model: model?.trim(), kind, unit, standard: standard?.trim(), notes: notes?.trim() },
    ...Object.fromEntries(NUMBERS.map(([name]) => [name, figure(name)])),
    ...Object.fromEntries(
      OPEN_NUMBERS.filter(([name]) => !name.startsWith("pole")).map(([name]) => [name, figure(name)]),
    ),
    poleMm: pole.every((one) => one === null) ? null : pole,
  };
}

/** One part of the library to be written; what is out of bounds stays in its box with its reason. */
export function PartEditor({
  part,
  onKeep,
  onClose,
}: {
  part: Part;
  onKeep: (part: Part) => Promise<boolean>;
  onClose: () => void;
}) {
  const [typed, setTyped] = useState<Typed>(() => typedOf(part));
  const [errors, setErrors] = useState<Record<string, string>>({});
  const put = (name: string, value: string) => setTyped((old) => ({ ...old, [name]: value }));
  const keep = async () => {
    const parsed = partSchema.safeParse(partOf(typed, part.id));
    if (parsed.success) {
      if (await onKeep(parsed.data)) onClose();
      return;
    }
    const found: Record<string, string> = {};
    for (const issue of parsed.error.issues) {
      const [first, index] = issue.path;
      const name = first === "poleMm" ? (index === 1 ? "poleToMm" : "poleFromMm") : String(first);
      found[name] ??= boundText(issue, typed[name] ?? "");
    }
    setErrors(found);
  };
  const text = (name: string, label: string, unit = "") => (
    <TextField
      key={name}
      label={label}
      value={typed[name] ?? ""}
      error={errors[name]}
      onChange={({ target }) => put(name, target.value)}
      {...(unit ? { unit } : {})}
    />
  );
  return (
    <Modal open onOpenChange={(isOpen) => !isOpen && onClose()} title="Part" showsTitle>
      <form
        noValidate
        className="grid max-h-[70vh] grid-cols-2 gap-2 overflow-y-auto"
        onSubmit={(event) => {
          event.preventDefault();
          void keep();
        }}
      >
        {text("maker", "Maker")}
        {text("model", "Model")}
        <SelectField label="Kind" value={typed.kind} onChange={({ target }) => put("kind", target.value)}>
          {PART_KINDS.map((kind) => (
            <option key={kind} value={kind}>
              {PART_KIND_WORDS[kind]}
            </option>
          ))}
        </SelectField>
        <SelectField label="Counted in" value={typed.unit} onChange={({ target }) => put("unit", target.value)}>
          <option value="piece">pieces</option>
          <option value="m">metres</option>
        </SelectField>
        {NUMBERS.map(([name, label, unit]) => text(name, label, unit))}
        {text("standard", "Made for: a category, a standard, a chemistry")}
        {OPEN_NUMBERS.map(([name, label, unit]) => text(name, label, unit))}
        <div className="col-span-2">{text("notes", "Notes")}</div>
        <div className="col-span-2 flex gap-2">
          <Button type="submit" look="primary">
            Keep
          </Button>
          <Button onClick={onClose}>Leave as it was</Button>
        </div>
      </form>
    </Modal>
  );
}
