import { attachTo } from "#core/propose";
import { inverseGeodesic } from "#core/geodesy";
import type { Subscriber } from "#core/plan";
import { Link } from "react-router";
import { toast } from "sonner";
import { useFormats } from "../ui";
import { useDesk } from "../desk/DeskContext";
import { FieldEdit, FieldsEdit, PlaceEdit } from "./fields";
import { LinksHere } from "./LinksHere";
import { Photos } from "./Photos";
import { DuplicateButton } from "./DuplicateButton";
import { RemoveButton } from "./RemoveButton";

const FIELDS = [
  ...(["demandMbps", "demandUpMbps", "people", "tier", "mount", "status"] as const),
  ...(["antennaHeightM", "maxHeightM", "behind", "notes"] as const),
];

/** Which sector serves a customer: chosen here, or taken off. */
function ServedFrom({ subscriber }: { subscriber: Subscriber }) {
  const { world, draft, select } = useDesk();
  const formats = useFormats();
  const link = [...world.links.values()].find(
    ({ bRadioId }) => world.radios.get(bRadioId)?.subscriberId === subscriber.id,
  );
  const sectors = [...world.radios.values()]
    .flatMap((radio) => {
      const site = radio.role === "sector" ? world.sites.get(radio.siteId ?? "") : undefined;
      return site ? [{ radio, site, distanceM: inverseGeodesic(site, subscriber).distanceM }] : [];
    })
    .sort((x, y) => x.distanceM - y.distanceM);
  const attach = (sectorId: string) => {
    const sector = world.radios.get(sectorId);
    const attached = sector && attachTo(world, sector, subscriber, () => crypto.randomUUID());
    if (!attached) return void toast.error("The library has no kit for this customer on that sector.");
    draft.put(attached.patches);
    select({ kind: "link", id: attached.linkId });
  };
  return (
    <div className="mt-2 flex flex-wrap items-end gap-1.5">
      <div className="min-w-0 flex-1">
        <label htmlFor="served-from" className="mb-0.5 block text-xs text-quiet">
          Served from
        </label>
        <select
          id="served-from"
          value={link?.aRadioId ?? ""}
          onChange={({ target: { value } }) => value && attach(value)}
          className="w-full rounded border border-rule bg-panel px-2 py-1 text-sm"
        >
          <option value="">{sectors.length === 0 ? "no sector stands yet" : "no sector yet"}</option>
          {link && !sectors.some(({ radio }) => radio.id === link.aRadioId) && (
            <option value={link.aRadioId}>{world.radios.get(link.aRadioId)?.name}</option>
          )}
          {sectors.map(({ radio, site, distanceM }) => (
            <option key={radio.id} value={radio.id}>
              {site.name}, {radio.name} ({formats.distance(distanceM)})
            </option>
          ))}
        </select>
      </div>
      {link && (
        <RemoveButton thing={{ kind: "links", id: link.id }} name={`the link to ${subscriber.name}`} word="Take off" />
      )}
    </div>
  );
}

/** A customer: every field where it stands, who serves, links and photographs. */
export function SubscriberSheet({ subscriber }: { subscriber: Subscriber }) {
  const { world } = useDesk();
  const formats = useFormats();
  const of = { kind: "subscribers", id: subscriber.id } as const;
  const radio = [...world.radios.values()].find(({ subscriberId }) => subscriberId === subscriber.id);
  return (
    <div className="divide-y divide-rule">
      <section className="px-3 py-2" aria-label={subscriber.name}>
        <h2 className="font-semibold">{subscriber.name}</h2>
        <ServedFrom subscriber={subscriber} />
        <div className="mt-2 grid grid-cols-2 gap-2">
          <FieldEdit kind="subscribers" row={subscriber} field="name" />
          <PlaceEdit of={of} place={subscriber} />
          <FieldsEdit kind="subscribers" row={subscriber} fields={FIELDS} />
        </div>
        {radio && radio.heightM !== subscriber.antennaHeightM && (
          <p className="mt-1 text-xs text-tight">
            The radio is planned at {formats.height(radio.heightM)}, the usual height here is{" "}
            {formats.height(subscriber.antennaHeightM)}: the radio’s counts.
          </p>
        )}
        <div className="mt-1.5 flex flex-wrap gap-1.5">
          <DuplicateButton place={{ kind: "subscriber", row: subscriber }} />
          <RemoveButton thing={{ kind: "subscribers", id: subscriber.id }} name={subscriber.name} />
        </div>
        <Link
          to={`/plans/${world.plan.id}/register?kind=subscribers`}
          className="mt-1 inline-block text-xs text-clay underline"
        >
          All customers in the register
        </Link>
      </section>
      <LinksHere place={subscriber} />
      <Photos ownerKind="subscriber" ownerId={subscriber.id} />
    </div>
  );
}
