import { withShield, type Shield } from "#core/antenna";
import { endOf, putPatch, setPatch, type Radio } from "#core/plan";
import { useState } from "react";
import { toast } from "sonner";
import { useDesk } from "../../../desk/DeskContext";
import { Button, NumberField, TextField } from "../../../ui";

const FIRST: Shield = {
  name: "shield",
  ...{ behindDb: 8, fromDeg: 90, frontDb: 0.5, rimDb: 3, weightKg: 1.5, priceEur: 60 },
};
const FIGURES: {
  field: Exclude<keyof Shield, "name">;
  label: string;
  unit: string;
  step: number;
  max: number;
  min: number;
}[] = [
  { field: "behindDb", label: "More loss behind", unit: "dB", step: 1, min: 0, max: 40 },
  { field: "fromDeg", label: "Behind begins at", unit: "°", step: 5, min: 40, max: 150 },
  { field: "frontDb", label: "Less gain ahead", unit: "dB", step: 0.5, min: 0, max: 10 },
  { field: "rimDb", label: "More loss at its rim", unit: "dB", step: 0.5, min: 0, max: 20 },
  { field: "weightKg", label: "Weight", unit: "kg", step: 0.1, min: 0, max: 50 },
  { field: "priceEur", label: "Price", unit: "€", step: 5, min: 0, max: 10_000 },
];

/** Puts a shield on one antenna, as an antenna of its own in the library: what it gives behind and what it takes in front. */
export function ShieldForm({ radio }: { radio: Radio }) {
  const { world, draft } = useDesk();
  const [shield, setShield] = useState(FIRST);
  const put = () => {
    const planId = world.plan.id;
    const body = withShield(endOf(world, radio.id).antenna, shield, crypto.randomUUID());
    draft.put([
      putPatch("equipment", { kind: "antenna", id: body.id, planId, body }),
      setPatch("radios", radio.id, { antennaModelId: body.id }),
    ]);
    toast(`${body.model} is in hand: the change bar says what it does to everybody.`);
  };
  return (
    <details className="mt-3">
      <summary className="cursor-pointer font-semibold">Put a shield on {radio.name}</summary>
      <p className="mt-1 text-xs text-quiet">
        As measured, or as its maker says. Isolation behind is bought with gain and width in front; the wind load of the
        mast grows.
      </p>
      <div className="mt-1 grid grid-cols-2 gap-2">
        <TextField
          label="Name"
          value={shield.name}
          maxLength={40}
          onChange={(event) => setShield({ ...shield, name: event.target.value })}
        />
        {FIGURES.map(({ field, ...rest }) => (
          <NumberField
            key={field}
            {...rest}
            value={shield[field]}
            onChange={(value) => setShield({ ...shield, [field]: value })}
          />
        ))}
      </div>
      <Button className="mt-2 text-xs" disabled={shield.name.trim() === ""} onClick={put}>
        Put it on, in hand
      </Button>
    </details>
  );
}
