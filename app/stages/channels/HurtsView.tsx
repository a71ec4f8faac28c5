import type { Hurt } from "#core/channels";
import type { HeardTape } from "#core/interference";
import { heardName } from "#core/link";
import { useState } from "react";
import { Asked } from "../../ask/Asked";
import { useView } from "../../ask/useView";
import { useDesk } from "../../desk/DeskContext";
import { placeNameOf } from "../../desk/names";
import { PrintedTape } from "../../tape/TapeView";
import { figure, Table } from "../../ui";

const NUMBER = "figures text-right whitespace-nowrap";
const MOST_TOLD = 60;

const keyOf = ({ by, victim }: Hurt) => `${by} ${victim}`;

/** How the worst of a pair arrives, line by line. */
function HurtTape({ hurt: { worst }, at }: { hurt: Hurt; at: string }) {
  const { data, draft } = useDesk();
  const { linkId, direction, radioId } = worst;
  const view = useView<HeardTape>(data.world.plan.id, draft.patches, { kind: "heardTape", linkId, direction, radioId });
  return (
    <section className="mt-3 max-w-md rounded border border-rule bg-panel p-2" aria-label="Tape of the pair">
      <Asked view={view} waiting="Adding it up…" none="On the channels in hand it is too weak there to be looked at.">
        {([tape]) => (
          <>
            <h3 className="mb-1 font-semibold">
              {heardName(tape!)}, as {at} hears it
            </h3>
            <PrintedTape lines={tape!.lines} caption={`How ${tape!.name} arrives at ${at}`} />
          </>
        )}
      </Asked>
    </section>
  );
}

/** Who hurts whom on the channels in hand: each pair with the receiver that is raised most, and what its noise there is made of. */
export function HurtsView() {
  const { world, data, draft, select } = useDesk();
  const view = useView<Hurt>(data.world.plan.id, draft.patches, { kind: "hurts" });
  const [opened, setOpened] = useState<string | null>(null);
  const nameOf = (id: string) => world.radios.get(id)?.name ?? `outsider ${world.outsiders.get(id)?.name ?? ""}`;
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
                <tr
                  key={keyOf(hurt)}
                  data-hurt={keyOf(hurt)}
                  className={keyOf(hurt) === opened ? "bg-panel font-semibold" : ""}
                >
                  <td>
                    <button
                      type="button"
                      aria-expanded={keyOf(hurt) === opened}
                      aria-label={`Tape of ${nameOf(hurt.by)} at ${at(hurt)}`}
                      className="text-left text-clay underline"
                      onClick={() => setOpened(keyOf(hurt) === opened ? null : keyOf(hurt))}
                    >
                      {nameOf(hurt.by)}
                    </button>
                  </td>
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
            {rows
              .filter((hurt) => keyOf(hurt) === opened)
              .map((hurt) => (
                <HurtTape key={keyOf(hurt)} hurt={hurt} at={at(hurt)} />
              ))}
          </div>
        )}
      </Asked>
    </div>
  );
}
