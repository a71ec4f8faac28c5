import { addressFaults, proposeAddresses, reservedProblem, subnetProblem } from "#core/addressing";
import { endOf } from "#core/plan";
import { counted } from "#core/words";
import { useMemo, useState } from "react";
import { ChooseButton } from "../../desk/ChooseButton";
import { useDesk } from "../../desk/DeskContext";
import { FieldEdit } from "../../sheets/fields";
import { useLines } from "../../views/useRows";
import { Button, buttonClass, Table } from "../../ui";
import { RenumberForm } from "./RenumberForm";

const ROW_PX = 26;
/** Made once: ten thousand addresses are put in order by it. */
const BY_NUMBER = new Intl.Collator(undefined, { numeric: true });

/** Networks of the sites, and every radio's address with what is wrong with it, wrong ones first. */
export function AddressesView() {
  const { world, data, draft } = useDesk();
  const faults = useMemo(() => new Map(addressFaults(world).map((fault) => [fault.radioId, fault])), [world]);
  const proposed = useMemo(() => proposeAddresses(world), [world]);
  const radios = useMemo(
    () =>
      [...world.radios.values()].sort(
        (x, y) =>
          Number(faults.has(y.id)) - Number(faults.has(x.id)) ||
          Number(y.address === "") - Number(x.address === "") ||
          BY_NUMBER.compare(x.address, y.address),
      ),
    [world, faults],
  );
  const reserved = reservedProblem(world.plan.reservedAddresses);
  const [movingId, setMovingId] = useState<string | null>(null);
  const moving = world.sites.get(movingId ?? "");
  const [page, setPage] = useState<HTMLElement | null>(null);
  const lines = useLines(page, radios.length, ROW_PX);
  return (
    <div
      ref={setPage}
      className="h-full overflow-y-auto p-3 text-[13px]"
      tabIndex={0}
      role="region"
      aria-label="Addresses"
    >
      <div className="flex flex-wrap items-center gap-3">
        <p className="flex-1 text-xs text-quiet">
          Every radio takes an address of its site’s network, a customer’s one of his access point’s site. Networks and
          gateways stand on the sites’ sheets. On a live network: one at a time, far ends first.
        </p>
        <Button disabled={proposed.length === 0} onClick={() => draft.put(proposed)}>
          {proposed.length === 0 ? "Nobody needs one" : `Give ${counted(proposed.length, "radio")} the next free`}
        </Button>
        <a className={buttonClass()} href={`/plans/${data.world.plan.id}/kit/addresses.csv`} download>
          CSV
        </a>
        <a className={buttonClass()} href={`/plans/${data.world.plan.id}/kit/hosts.txt`} download>
          Hosts
        </a>
        <a className={buttonClass()} href={`/plans/${data.world.plan.id}/kit/zone.txt`} download>
          Zone
        </a>
      </div>
      <h2 className="mt-3 font-semibold">Networks</h2>
      <Table
        caption="Networks of the sites"
        columns={[{ name: "Site" }, { name: "Network" }, { name: "Gateway" }, { name: "Action", isHidden: true }]}
      >
        {[...world.sites.values()].map((site) => {
          const problem = subnetProblem(site);
          return (
            <tr key={site.id} data-network={site.id}>
              <td>
                <ChooseButton of={{ kind: "site", id: site.id }}>{site.name}</ChooseButton>
              </td>
              <td className="figures">
                {site.subnet || "none planned"}
                {site.vlan > 0 && `, VLAN ${site.vlan}`}
                {site.clientSubnet && (
                  <span className="block">
                    customers {site.clientSubnet}
                    {site.clientVlan > 0 && `, VLAN ${site.clientVlan}`}
                  </span>
                )}
              </td>
              <td className={`figures ${problem ? "text-blocked" : ""}`}>
                {site.gateway || "–"}
                {problem && <span className="block text-xs">{problem}</span>}
              </td>
              <td className="text-right">
                <Button
                  className="px-1.5 py-0 text-xs"
                  aria-expanded={movingId === site.id}
                  aria-label={`Renumber ${site.name}`}
                  onClick={() => setMovingId(movingId === site.id ? null : site.id)}
                >
                  Renumber
                </Button>
              </td>
            </tr>
          );
        })}
      </Table>
      <div className="mt-2 grid max-w-xl grid-cols-2 gap-x-2">
        <FieldEdit
          kind="plans"
          row={world.plan}
          field="reservedAddresses"
          label="Reserved, one a line: an address, a range or a network, then whose it is"
        />
        {reserved && (
          <p role="alert" className="col-span-2 text-xs text-blocked">
            {reserved}
          </p>
        )}
      </div>
      {moving && <RenumberForm key={moving.id} site={moving} onDone={() => setMovingId(null)} />}
      <h2 className="mt-3 font-semibold">Radios</h2>
      {radios.length === 0 && <p className="text-quiet">No radio is planned yet.</p>}
      <div ref={lines.setStart}>
        <Table
          caption="Addresses of the radios"
          columns={[
            { name: "Radio", width: "30%" },
            { name: "At", width: "25%" },
            { name: "Address", width: "45%" },
          ]}
        >
          {lines.before > 0 && <tr aria-hidden="true" style={{ height: lines.before }} />}
          {lines.shown.map(({ index }) => {
            const radio = radios[index]!;
            const fault = faults.get(radio.id);
            return (
              <tr key={radio.id} ref={lines.measure} data-index={index} data-address={radio.id}>
                <td>
                  <ChooseButton of={{ kind: "radio", id: radio.id }}>{radio.name}</ChooseButton>
                </td>
                <td className="text-quiet">{endOf(world, radio.id).placeName}</td>
                <td className={`figures ${fault ? "text-blocked" : ""}`}>
                  {radio.address || <span className="text-quiet">none yet</span>}
                  {fault && <span className="block font-sans text-xs">{fault.what}</span>}
                </td>
              </tr>
            );
          })}
          {lines.after > 0 && <tr aria-hidden="true" style={{ height: lines.after }} />}
        </Table>
      </div>
    </div>
  );
}
