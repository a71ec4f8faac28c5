import { endOf, freeName, radioPatches, type Radio } from "#core/plan";
import { Button } from "../ui";
import { useDesk } from "../desk/DeskContext";
import { ChannelEditor } from "./ChannelEditor";
import { EndEditor } from "./EndEditor";
import { FieldEdit, FieldsEdit } from "./fields";
import { SectorFigures } from "./SectorFigures";
import { RemoveButton } from "./RemoveButton";

/** A radio by itself: a sector with or without customers, or one end of a bridge. */
export function RadioSheet({ radio }: { radio: Radio }) {
  const { world, draft, select } = useDesk();
  const own = { kind: "radios", row: radio } as const;
  const end = endOf(world, radio.id);
  const links = [...world.links.values()].filter((link) => link.aRadioId === radio.id || link.bRadioId === radio.id);
  const customers = links.filter((link) => link.aRadioId === radio.id && link.kind === "access");
  const brackets = [...world.parts.values()]
    .filter(({ kind }) => kind === "bracket")
    .map(({ id, model }) => [id, model] as const);
  const duplicate = () => {
    const id = crypto.randomUUID();
    const name = freeName(world.radios.values(), radio.name);
    draft.put(radioPatches(world, { ...radio, id, name, carrierId: id, address: "" }));
    select({ kind: "radio", id });
  };
  return (
    <div className="divide-y divide-rule">
      <section className="px-3 py-2" aria-label={radio.name}>
        <h2 className="font-semibold">{radio.name}</h2>
        <p className="text-[13px] text-quiet">
          {radio.role === "sector" ? "Sector" : radio.role === "bridge" ? "End of a bridge" : "Customer’s radio"} at{" "}
          <button
            type="button"
            className="text-clay underline"
            onClick={() =>
              select(
                radio.siteId !== null
                  ? { kind: "site", id: radio.siteId }
                  : { kind: "subscriber", id: radio.subscriberId ?? "" },
              )
            }
          >
            {end.placeName}
          </button>
          {radio.role === "sector" &&
            (customers.length === 0 ? ", serving nobody yet" : `, serving ${customers.length}`)}
          .
        </p>
        <div className="mt-2 grid grid-cols-2 gap-2">
          <FieldEdit {...own} field="name" />
          <ChannelEditor radioId={radio.id} />
        </div>
        <EndEditor end={end} />
        <div className="mt-2 grid grid-cols-2 gap-2">
          <FieldsEdit {...own} fields={["ethernetM", "indoorM", "cableKind", "injector"]} />
          <FieldEdit {...own} field="bracketId" choices={[[null, "the one in its box"] as const, ...brackets]} />
          <FieldsEdit {...own} fields={["wiring", "arresters", "jumperM"]} />
          {radio.injector === "dc48" && <FieldEdit {...own} field="leadMm2" />}
          <FieldsEdit {...own} fields={["firmware", "interferenceDb", "address"]} />
        </div>
        <div className="mt-1.5 flex flex-wrap gap-1.5">
          {radio.role === "sector" && (
            <Button className="text-xs" onClick={duplicate}>
              Duplicate
            </Button>
          )}
          <RemoveButton thing={{ kind: "radios", id: radio.id }} name={radio.name} />
        </div>
      </section>
      {radio.role === "sector" && <SectorFigures radio={radio} />}
      {radio.role !== "sector" && links.length > 0 && (
        <section className="px-3 py-2">
          <h3 className="mb-1 text-[13px] font-semibold">Its links</h3>
          <ul>
            {links.map((link) => {
              const other = endOf(world, link.aRadioId === radio.id ? link.bRadioId : link.aRadioId);
              return (
                <li key={link.id}>
                  <button
                    type="button"
                    onClick={() => select({ kind: "link", id: link.id })}
                    className="py-0.5 text-left text-[13px] hover:text-clay"
                  >
                    {other.placeName}
                  </button>
                </li>
              );
            })}
          </ul>
        </section>
      )}
    </div>
  );
}
