import { renumbering, type Renumbering } from "#core/addressing";
import type { Site, World } from "#core/plan";
import { counted } from "#core/words";
import { useMemo, useState } from "react";
import { useDesk } from "../../desk/DeskContext";
import { Button, TextField } from "../../ui";

/** Steps that are named before the rest is counted. */
const MOST_NAMED = 40;

type Tried = { move: Renumbering; refusal: null } | { move: null; refusal: string | null };

/** The move to some networks, or why there is none; nothing is said before anything is typed. */
function tried(world: World, site: Site, subnet: string, clientSubnet: string): Tried {
  if (subnet.trim() === "") return { move: null, refusal: null };
  try {
    return {
      move: renumbering(world, site.id, { subnet: subnet.trim(), clientSubnet: clientSubnet.trim() }),
      refusal: null,
    };
  } catch (error) {
    if (error instanceof RangeError) return { move: null, refusal: error.message };
    throw error;
  }
}

/** Moves a site to another network: what changes, in the order in which nobody is lost on the way. */
export function RenumberForm({ site, onDone }: { site: Site; onDone: () => void }) {
  const { world, draft } = useDesk();
  const [subnet, setSubnet] = useState("");
  const [clientSubnet, setClientSubnet] = useState(site.clientSubnet);
  const { move, refusal } = useMemo(
    () => tried(world, site, subnet, clientSubnet),
    [world, site, subnet, clientSubnet],
  );
  return (
    <section aria-label={`Renumber ${site.name}`} className="mt-3 rounded border border-rule bg-panel p-3">
      <h2 className="font-semibold">Renumber {site.name}</h2>
      <div className="mt-1 grid max-w-xl grid-cols-2 gap-2">
        <TextField
          label="New network"
          placeholder="10.46.0.0/24"
          value={subnet}
          error={refusal ?? undefined}
          onChange={({ target }) => setSubnet(target.value)}
        />
        <TextField
          label="Customers’ own network (empty: the same)"
          value={clientSubnet}
          onChange={({ target }) => setClientSubnet(target.value)}
        />
      </div>
      {move && (
        <>
          <p className="mt-2">
            On the live network in this order, one at a time, each reached at its new address before the next:
          </p>
          <ol className="mt-1 list-decimal pl-6">
            {move.steps.slice(0, MOST_NAMED).map(({ radioId, name, from, to, why }) => (
              <li key={radioId ?? "gateway"} data-renumber={radioId ?? "gateway"}>
                {name}: <span className="figures">{from || "none"}</span> → <span className="figures">{to}</span>
                <span className="text-quiet"> · {why}</span>
              </li>
            ))}
          </ol>
          {move.steps.length > MOST_NAMED && (
            <p className="text-quiet">and {move.steps.length - MOST_NAMED} more, the gateway last</p>
          )}
          {move.leftOut > 0 && (
            <p className="text-blocked">
              {counted(move.leftOut, "radio")} find no room in it and keep their addresses.
            </p>
          )}
        </>
      )}
      <div className="mt-2 flex gap-2">
        <Button
          look="primary"
          disabled={!move}
          onClick={() => {
            draft.put(move!.patches);
            onDone();
          }}
        >
          Take it in hand
        </Button>
        <Button onClick={onDone}>Leave it</Button>
      </div>
    </section>
  );
}
