import { endOf, setPatch, type Channel, type Link } from "#core/plan";
import { figure, NumberField, SelectField } from "../ui";
import { FieldConflict } from "./ConflictPanel";
import { useDesk } from "../desk/DeskContext";
import { FieldEdit } from "./fields";
import { channelPatches } from "../desk/patches";

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
      {radio.role === "sector" && model.duplex === "TDD" && (
        <FrameShare carrierId={carrierId} downShare={radio.downShare ?? null} usualShare={model.downShare} />
      )}
      {radio.role === "sector" && <PowerPlan carrierId={carrierId} arriveAtDbm={radio.arriveAtDbm ?? null} />}
      <FieldEdit kind="carriers" row={{ id: carrierId }} field="timingGroup" value={radio.timingGroup ?? ""} />
      <p className="col-span-2 text-xs text-quiet">
        Access points of one sync group send at the same times and do not hear each other; empty keeps its own time.
      </p>
      {ends.size > 2 && (
        <p className="col-span-2 text-xs text-quiet">
          The channel is the access point’s: all {ends.size} radios on it move.
        </p>
      )}
    </>
  );
}

/** Shares of the frame that are offered, from a twentieth to nineteen of them. */
const SHARES = Array.from({ length: 19 }, (_, i) => (i + 1) / 20);

/** How much of the frame goes toward the customers: as the radio comes, or set for all on the carrier. */
function FrameShare({
  carrierId,
  downShare,
  usualShare,
}: {
  carrierId: string;
  downShare: number | null;
  usualShare: number;
}) {
  const { draft } = useDesk();
  return (
    <div className="col-span-2">
      <SelectField
        label="Frame toward customers"
        value={downShare === null ? "" : String(downShare)}
        onChange={({ target: { value } }) =>
          draft.put([setPatch("carriers", carrierId, { downShare: value === "" ? null : Number(value) })])
        }
      >
        <option value="">{figure(usualShare * 100, 0)} %, as its radio comes</option>
        {SHARES.map((share) => (
          <option key={share} value={share}>
            {figure(share * 100, 0)} %
          </option>
        ))}
      </SelectField>
      <FieldConflict kind="carriers" id={carrierId} field="downShare" />
    </div>
  );
}

/** Where customers are turned down to first, dBm on each chain: strong enough for the fastest modulations. */
const USUAL_ARRIVAL_DBM = -60;

/** The power plan of an access point: its customers as they are set, or turned down until they arrive alike. */
function PowerPlan({ carrierId, arriveAtDbm }: { carrierId: string; arriveAtDbm: number | null }) {
  const { draft } = useDesk();
  const of = { kind: "carriers", id: carrierId } as const;
  return (
    <>
      <div className={arriveAtDbm === null ? "col-span-2" : ""}>
        <SelectField
          label="Customers’ power"
          value={arriveAtDbm === null ? "set" : "alike"}
          onChange={({ target: { value } }) =>
            draft.put([setPatch("carriers", carrierId, { arriveAtDbm: value === "set" ? null : USUAL_ARRIVAL_DBM })])
          }
        >
          <option value="set">as each is set</option>
          <option value="alike">arriving alike</option>
        </SelectField>
      </div>
      {arriveAtDbm === null ? (
        <FieldConflict {...of} field="arriveAtDbm" />
      ) : (
        <FieldEdit
          kind="carriers"
          row={{ id: carrierId }}
          field="arriveAtDbm"
          label="Arriving on each chain at"
          value={arriveAtDbm}
        />
      )}
    </>
  );
}
