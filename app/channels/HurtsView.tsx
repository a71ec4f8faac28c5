import type { Hurt } from "#core/channels";
import { Asked } from "../bench/Asked";
import { useView } from "../bench/useView";
import { useDesk } from "../desk/DeskContext";
import { placeNameOf } from "../frame/names";
import { figure, Table } from "../ui";

const NUMBER = "figures text-right whitespace-nowrap";
const MOST_TOLD = 60;

/** Who hurts whom on the channels in hand: each pair with the receiver that is raised most, and what its noise there is made of. */
export function HurtsView() {
  const { world, data, draft, select } = useDesk();
  const view = useView<Hurt>(data.world.plan.id, draft.patches, { kind: "hurts" });
  const nameOf = (id: string) => `${world.radios.get(id)?.name ?? ""}`;
  const at = ({ worst }: Hurt) => {
    const link = world.links.get(worst.linkId);
    if (!link) return "";
    return placeNameOf(world, worst.direction === "down" ? link.bRadioId : link.aRadioId);
  };
  return (
    <div className="h-full overflow-y-auto p-3 text-[13px]">
      <p className="text-xs text-quiet">
        Every pair on channels that meet, over the ground between, with both patterns, polarizations and timing. People
        whose rate is lost are counted as if the pair were alone. Noise at a sector is heard by all its customers’
        uplinks; at a customer by him alone.
      </p>
      <Asked
        view={view}
        waiting="Listening everywhere…"
        none="Nobody of this plan raises another’s noise by a tenth of a decibel."
      >
        {(rows) => (
          <div className="mt-2 overflow-x-auto" tabIndex={0} role="region" aria-label="Who hurts whom">
            <Table
              caption="Who hurts whom"
              columns={[
                { name: "Sends" },
                { name: "Is hurt" },
                { name: "People’s rate lost", isNumber: true },
                { name: "Receivers raised", isNumber: true },
                { name: "Most at" },
                { name: "On one channel", isNumber: true },
                { name: "Channels leave", isNumber: true },
                { name: "Arrives", isNumber: true },
                { name: "Raises noise", isNumber: true },
              ]}
            >
              {rows.slice(0, MOST_TOLD).map((hurt) => (
                <tr key={`${hurt.by} ${hurt.victim}`} data-hurt={`${hurt.by} ${hurt.victim}`}>
                  <td>{nameOf(hurt.by)}</td>
                  <td>{nameOf(hurt.victim)}</td>
                  <td className={`${NUMBER} ${hurt.peopleLost > 0 ? "font-semibold" : ""}`}>
                    {figure(hurt.peopleLost)}
                  </td>
                  <td className={NUMBER}>{hurt.raised}</td>
                  <td>
                    <button
                      type="button"
                      className="text-left text-clay underline"
                      onClick={() => select({ kind: "link", id: hurt.worst.linkId })}
                    >
                      {at(hurt)} ({hurt.worst.direction === "down" ? "customer’s end" : "near end"})
                    </button>
                  </td>
                  <td className={NUMBER}>{figure(hurt.worst.sentDbm, 0)} dBm</td>
                  <td className={NUMBER}>{figure(hurt.worst.couplingDb, 0)} dB</td>
                  <td className={NUMBER}>{figure(hurt.worst.arrivingDbm, 0)} dBm</td>
                  <td className={NUMBER}>{figure(hurt.worst.raisesDb)} dB</td>
                </tr>
              ))}
            </Table>
            {rows.length > MOST_TOLD && (
              <p className="text-xs text-quiet">
                The {MOST_TOLD} worst of {rows.length} pairs.
              </p>
            )}
          </div>
        )}
      </Asked>
    </div>
  );
}
