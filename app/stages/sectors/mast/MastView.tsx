import { MAST_SIDEWAYS_M, mastPairs, radiosOnMast, respacing } from "#core/mast";
import { mountsLeft, setPatch, type Site } from "#core/plan";
import { useMemo } from "react";
import { useDesk } from "../../../desk/DeskContext";
import { Button, figure, Table, Term, useFormats } from "../../../ui";
import { MastDrawing } from "./MastDrawing";
import { ShieldForm } from "./ShieldForm";

/** Pairs that are told; the rest of a full mast is quieter. */
const MOST_PAIRS = 24;
const NUMBER = "figures text-right whitespace-nowrap";

/** A mast to scale with what each radio on it does to the others, and what more spacing or a shield would bring. */
export function MastView({ site }: { site: Site }) {
  const { world, draft, selection, select } = useDesk();
  const formats = useFormats();
  const hung = useMemo(() => radiosOnMast(world, site.id), [world, site.id]);
  const pairs = useMemo(() => mastPairs(hung), [hung]);
  const better = useMemo(() => respacing(hung, site.structureHeightM), [hung, site.structureHeightM]);
  const left = mountsLeft(world, site);
  const nameOf = (id: string) => world.radios.get(id)?.name ?? "";
  const chosen = selection?.kind === "radio" ? hung.find(({ end }) => end.radio.id === selection.id) : undefined;
  const spreadOut = () =>
    draft.put(better!.heights.map(({ radioId, heightM }) => setPatch("radios", radioId, { heightM })));
  return (
    <div className="flex h-full flex-wrap gap-4 overflow-y-auto p-3 text-[13px]">
      <div className="w-full max-w-md">
        <MastDrawing
          hung={hung}
          structureHeightM={site.structureHeightM}
          chosenId={chosen?.end.radio.id ?? null}
          onHeight={(radioId, heightM) => draft.put([setPatch("radios", radioId, { heightM })])}
          onChoose={(id) => select({ kind: "radio", id })}
        />
        <p className="text-xs text-quiet">
          {hung.length} on the mast, {left >= 0 ? `${left} mounts free` : `${-left} more than it has mounts`}. Work on a
          mast is for trained people with the transmitters off. Dashed: in front of each antenna, how far the public
          keeps away, as if it sent all the time at its set power (ICNIRP 2020); your regulator decides.
        </p>
      </div>
      <div className="min-w-0 flex-1 basis-80">
        {better && (
          <div className="mb-3 rounded border border-tight p-2" data-respacing>
            <p>
              The spacing wastes isolation that the mast has room for: spread out, the worst pair stands{" "}
              {figure(better.worstThenDb, 0)} dB apart, now {figure(better.worstNowDb, 0)} dB.
            </p>
            <Button className="mt-1 text-xs" onClick={spreadOut}>
              Spread them out, in hand
            </Button>
          </div>
        )}
        {pairs.length === 0 ? (
          <p className="text-quiet">
            {hung.length === 0
              ? "Nothing hangs on this mast yet: add a sector or a bridge."
              : "One radio alone has no neighbour to disturb."}
          </p>
        ) : (
          <>
            <h3 className="font-semibold">Who disturbs whom</h3>
            <p className="text-xs text-quiet">
              Coupling by height, by {figure(MAST_SIDEWAYS_M)} m to the side and by both patterns toward each other
              (Report ITU-R M.2244, never more than free space), by polarization and chains, and by what the channels
              leave of it.
            </p>
            <div className="mt-1 overflow-x-auto" tabIndex={0} role="region" aria-label="Pairs on the mast">
              <Table
                caption="What each radio of the mast does to the others"
                columns={[
                  { name: "Sends" },
                  { name: "Listens" },
                  { name: "Apart", isNumber: true },
                  { name: "Gain to each other", isNumber: true },
                  { name: "Isolation", isNumber: true },
                  { name: "Channels leave", isNumber: true },
                  { name: "Arrives, per chain", isNumber: true },
                  { name: "Raises noise by", isNumber: true },
                ]}
              >
                {pairs.slice(0, MOST_PAIRS).map((pair) => (
                  <tr key={`${pair.fromId} ${pair.toId}`} data-pair={`${pair.fromId} ${pair.toId}`}>
                    <td>{nameOf(pair.fromId)}</td>
                    <td>{nameOf(pair.toId)}</td>
                    <td className={NUMBER}>{formats.height(pair.verticalM)}</td>
                    <td className={NUMBER}>
                      {figure(pair.fromGainDbi, 0)}, {figure(pair.toGainDbi, 0)} dBi
                    </td>
                    <td className={NUMBER}>{figure(pair.isolationDb, 0)} dB</td>
                    <td className={NUMBER}>
                      {pair.channelDb === null ? "nothing" : `${figure(pair.channelDb, 0)} dB`}
                    </td>
                    <td className={NUMBER}>{pair.arrivingDbm === null ? "–" : `${figure(pair.arrivingDbm, 0)} dBm`}</td>
                    <td className={`${NUMBER} ${pair.raisesDb >= 3 && !pair.isTimed ? "font-semibold" : ""}`}>
                      {pair.isTimed ? (
                        <Term meaning="Both are of one timing group: they send and listen together, so that neither sends while the other listens.">
                          timed
                        </Term>
                      ) : (
                        `${figure(pair.raisesDb)} dB`
                      )}
                    </td>
                  </tr>
                ))}
              </Table>
            </div>
            {pairs.length > MOST_PAIRS && (
              <p className="text-xs text-quiet">
                The {MOST_PAIRS} worst of {pairs.length}.
              </p>
            )}
          </>
        )}
        {chosen ? (
          <ShieldForm radio={chosen.end.radio} />
        ) : (
          hung.length > 0 && (
            <p className="mt-3 text-xs text-quiet">Choose an antenna on the mast to put a shield on it.</p>
          )
        )}
      </div>
    </div>
  );
}
