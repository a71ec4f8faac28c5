import { endOf, setPatch, type Channel, type Link } from "#core/plan";
import { NumberField } from "../ui";
import { FieldConflict } from "./ConflictPanel";
import { useDesk } from "./DeskContext";
import { channelPatches } from "./patches";

/**
 * The channel of an access point or bridge, for all that use it: within what every radio on it can do. Under a link a far end
 * that stood on another channel joins.
 */
export function ChannelEditor({ radioId, link }: { radioId: string; link?: Link }) {
  const { world, draft } = useDesk();
  const { radio, model } = endOf(world, radioId);
  const { carrierId } = radio;
  const ends = new Set([radioId, ...(link ? [link.bRadioId] : [])]);
  for (const other of world.radios.values()) if (other.carrierId === carrierId) ends.add(other.id);
  const models = [...ends].flatMap((id) => world.radioModels.get(world.radios.get(id)!.radioModelId) ?? []);
  const widths = model.widthsMHz.filter((width) => models.every(({ widthsMHz }) => widthsMHz.includes(width)));
  const set = (change: Partial<Channel>) =>
    draft.put(link ? channelPatches(world, link, change) : [setPatch("carriers", carrierId, change)]);
  return (
    <>
      <NumberField
        label="Frequency"
        unit="MHz"
        value={radio.frequencyMHz}
        step={model.rasterMHz}
        min={Math.max(...models.map(({ bandMHz }) => bandMHz[0]))}
        max={Math.min(...models.map(({ bandMHz }) => bandMHz[1]))}
        decimals={1}
        onChange={(frequencyMHz) => set({ frequencyMHz })}
      />
      <div>
        <label htmlFor={`width-${radioId}`} className="mb-0.5 block text-xs text-quiet">
          Width
        </label>
        <select
          id={`width-${radioId}`}
          value={radio.widthMHz}
          onChange={(event) => set({ widthMHz: Number(event.target.value) })}
          className="figures w-full rounded border border-rule bg-panel px-2 py-1 text-sm"
        >
          {!widths.includes(radio.widthMHz) && <option value={radio.widthMHz}>{radio.widthMHz} MHz</option>}
          {widths.map((width) => (
            <option key={width} value={width}>
              {width} MHz
            </option>
          ))}
        </select>
      </div>
      <FieldConflict kind="carriers" id={carrierId} field="frequencyMHz" />
      <FieldConflict kind="carriers" id={carrierId} field="widthMHz" />
      {ends.size > 2 && (
        <p className="col-span-2 text-xs text-quiet">
          The channel is the access point’s: all {ends.size} radios on it move.
        </p>
      )}
    </>
  );
}
