import { useDesk } from "../../../desk/DeskContext";
import { Chips } from "./Chips";
import { libraryItemName } from "./libraryItemName";

/** The radios, antennas and brackets whose ends follow an own procedure. */
export function KitChips({ chosen, onChange }: { chosen: readonly string[]; onChange: (ids: string[]) => void }) {
  const { world } = useDesk();
  const brackets = [...world.parts.values()].filter(({ kind }) => kind === "bracket");
  const all = [...world.radioModels.keys(), ...world.antennaModels.keys(), ...brackets.map(({ id }) => id)];
  return (
    <div className="mt-2">
      <Chips
        label="Followed by"
        add="radio, antenna or bracket"
        chosen={chosen}
        offered={all.filter((id) => !chosen.includes(id))}
        nameOf={(id) => libraryItemName(world, id)}
        onChange={onChange}
      />
      {chosen.length === 0 && <p className="text-xs text-tight">No kit follows it yet: choose what it is for.</p>}
    </div>
  );
}
