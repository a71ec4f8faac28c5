import { accessLinks } from "#core/capacity";
import type { Radio } from "#core/plan";
import { useMemo } from "react";
import { useDesk } from "../../desk/DeskContext";
import { placeNameOf } from "../../desk/names";
import { SelectField } from "../../ui";

/** Access points with customers, and the selected one of them, or that of the selected link; the first where nothing is selected. */
export function useChosenSector(): { sectors: Radio[]; sector: Radio | undefined } {
  const { world, selection } = useDesk();
  const sectors = useMemo(() => [...accessLinks(world).keys()].flatMap((id) => world.radios.get(id) ?? []), [world]);
  const chosen = selection?.kind === "link" ? world.links.get(selection.id)?.aRadioId : selection?.id;
  return { sectors, sector: sectors.find(({ id }) => id === chosen) ?? sectors[0] };
}

/** What stands in place of a view that needs a sector with customers. */
export function NoSector() {
  return (
    <p className="p-8 text-center text-sm text-quiet">No sector serves anybody yet: link a customer to one first.</p>
  );
}

export function SectorChoice({ sectors, sector }: { sectors: readonly Radio[]; sector: Radio }) {
  const { world, select } = useDesk();
  return (
    <SelectField
      label="Sector"
      value={sector.id}
      onChange={({ target }) => select({ kind: "radio", id: target.value })}
    >
      {sectors.map(({ id, name }) => (
        <option key={id} value={id}>
          {name}, {placeNameOf(world, id)}
        </option>
      ))}
    </SelectField>
  );
}
