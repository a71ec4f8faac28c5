import { CABLE_KINDS, endOf, freeName, INJECTORS, radioPatches, WIRINGS, type Radio } from "#core/plan";
import { CABLES } from "#core/power";
import { Button } from "../ui";
import { useDesk } from "./DeskContext";
import { ChannelEditor } from "./ChannelEditor";
import { EndEditor } from "./EndEditor";
import { ChoiceEdit, FigureEdit, TextEdit } from "./fields";
import { SectorFigures } from "../sectors/SectorFigures";
import { RemoveButton } from "./RemoveButton";

/** A radio by itself: a sector with or without customers, or one end of a bridge. */
export function RadioSheet({ radio }: { radio: Radio }) {
  const { world, draft, select } = useDesk();
  const of = { kind: "radios", id: radio.id } as const;
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
          <TextEdit of={of} field="name" label="Name" value={radio.name} isRequired most={120} />
          <ChannelEditor radioId={radio.id} />
        </div>
        <EndEditor end={end} />
        <div className="mt-2 grid grid-cols-2 gap-2">
          <FigureEdit
            of={of}
            field="ethernetM"
            label="Cable to the injector"
            unit="m"
            max={1000}
            value={radio.ethernetM}
          />
          <FigureEdit
            of={of}
            field="indoorM"
            label="From there to the switch"
            unit="m"
            max={1000}
            value={radio.indoorM}
          />
          <ChoiceEdit
            of={of}
            field="cableKind"
            label="Cable"
            value={radio.cableKind}
            choices={CABLE_KINDS.map((kind) => [kind, CABLES[kind].name] as const)}
          />
          <ChoiceEdit
            of={of}
            field="injector"
            label="Fed by"
            value={radio.injector}
            choices={INJECTORS.map((one) => [one, one] as const)}
          />
          <ChoiceEdit
            of={of}
            field="bracketId"
            label="Bracket"
            value={radio.bracketId}
            choices={[[null, "the one in its box"] as const, ...brackets]}
          />
          <ChoiceEdit
            of={of}
            field="wiring"
            label="Wired"
            value={radio.wiring}
            choices={WIRINGS.map((one) => [one, one] as const)}
          />
          <FigureEdit of={of} field="arresters" label="Surge arresters" max={2} value={radio.arresters} />
          <FigureEdit
            of={of}
            field="jumperM"
            label="Jumpers, each"
            unit="m"
            step={0.1}
            decimals={1}
            max={100}
            value={radio.jumperM}
          />
          {radio.injector === "dc48" && (
            <FigureEdit
              of={of}
              field="leadMm2"
              label="DC lead, each conductor"
              unit="mm²"
              step={0.5}
              decimals={1}
              min={0.2}
              max={50}
              value={radio.leadMm2}
            />
          )}
          <TextEdit of={of} field="firmware" label="Firmware found" value={radio.firmware} most={60} />
          <FigureEdit
            of={of}
            field="interferenceDb"
            label="Noise over thermal"
            unit="dB"
            step={0.5}
            decimals={1}
            max={80}
            value={radio.interferenceDb}
          />
          <TextEdit of={of} field="address" label="Address" value={radio.address} most={64} />
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
