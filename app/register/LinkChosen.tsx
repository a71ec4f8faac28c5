import type { AttachedList } from "#core/search";
import { counted } from "#core/words";
import { useState } from "react";
import { toast } from "sonner";
import { keepPatches } from "../keep/keepPatches";
import { Button, figure, Modal, Table } from "../ui";
import { useAnswer } from "../ask/useAnswer";

/** More are not linked at once: each is answered in full. */
const MOST_LINKED_AT_ONCE = 500;

/** Links chosen customers to the sectors that stand: who takes whom is shown first, and why nobody takes the others. */
export function LinkChosen({
  planId,
  revision,
  ids,
  onDone,
}: {
  planId: string;
  revision: number;
  ids: readonly string[];
  onDone: () => void;
}) {
  const [isOpen, setOpen] = useState(false);
  const [busy, setBusy] = useState(false);
  const body = { ask: { kind: "attach", subscriberIds: ids }, patches: [] };
  const { answer, failed } = useAnswer<{ rows: [AttachedList] }>(
    isOpen ? { address: `/plans/${planId}/views`, body, of: [revision] } : null,
    { isFresh: true },
  );
  const found = answer?.rows[0] ?? null;
  const taken = found?.customers.filter(({ sector }) => sector !== null) ?? [];
  const keep = async () => {
    setBusy(true);
    const what = `Linked ${counted(taken.length, "customer")}`;
    const { ok, message } = await keepPatches(planId, revision, found!.patches, what);
    setBusy(false);
    if (!ok) return void toast.error(message, { duration: 12_000 });
    toast(`${what}. Undo takes the links away.`);
    setOpen(false);
    onDone();
  };
  return (
    <>
      <Button
        disabled={ids.length === 0 || ids.length > MOST_LINKED_AT_ONCE}
        title={ids.length > MOST_LINKED_AT_ONCE ? `At most ${MOST_LINKED_AT_ONCE} at once` : undefined}
        onClick={() => setOpen(true)}
      >
        Link
      </Button>
      <Modal open={isOpen} onOpenChange={setOpen} title={`Link ${counted(ids.length, "customer")}`} showsTitle>
        {failed ? (
          <p role="alert" className="text-sm text-blocked">
            {failed}
          </p>
        ) : !found ? (
          <p role="status" className="text-sm text-quiet">
            Asking every sector that looks their way…
          </p>
        ) : (
          <>
            <p role="status" className="text-sm" data-taken={taken.length}>
              {taken.length} of {found.customers.length} are taken, each by the sector that serves best at the demand,
              with all of them on the air.
            </p>
            <div className="mt-2 max-h-80 overflow-y-auto" tabIndex={0} role="region" aria-label="Who takes whom">
              <Table
                caption="Who takes whom"
                isSticky
                columns={[{ name: "Customer" }, { name: "Sector, or why none" }, { name: "Mbit/s", isNumber: true }]}
              >
                {found.customers.map(({ subscriberId, name, sector, why, downMbps, upMbps }) => (
                  <tr key={subscriberId}>
                    <td>{name}</td>
                    <td className={sector ? "" : "text-quiet"}>
                      {sector ? `${sector.siteName}, ${sector.name}` : why}
                    </td>
                    <td className="figures text-right whitespace-nowrap">
                      {sector ? `${figure(downMbps, 0)}/${figure(upMbps, 0)}` : ""}
                    </td>
                  </tr>
                ))}
              </Table>
            </div>
            <div className="mt-3 flex justify-end gap-2">
              <Button onClick={() => setOpen(false)}>Leave them</Button>
              <Button look="primary" disabled={taken.length === 0 || busy} onClick={() => void keep()}>
                Link {counted(taken.length, "customer")}
              </Button>
            </div>
          </>
        )}
      </Modal>
    </>
  );
}
