import type { Patch } from "#core/plan";
import { listed } from "#core/words";
import { AlertDialog } from "radix-ui";
import { useState } from "react";
import { toast } from "sonner";
import { requestJson } from "../ask/request";
import { keepPatches } from "../keep/keepPatches";
import { Button, buttonClass } from "../ui";
import type { RegisterKind } from "./columns";

interface Removal {
  revision: number;
  along: string[];
  patches: Patch[];
}

/** Takes chosen rows out together with what stands on them, which is named first. */
export function TakeOut({
  planId,
  kind,
  ids,
  onDone,
}: {
  planId: string;
  kind: RegisterKind;
  ids: readonly string[];
  onDone: () => void;
}) {
  const [removal, setRemoval] = useState<Removal | null>(null);
  const [open, setOpen] = useState(false);
  const ask = async () => {
    setRemoval(null);
    setOpen(true);
    try {
      setRemoval(await requestJson<Removal>(`/plans/${planId}/removal`, { body: { kind, ids } }));
    } catch (error) {
      setOpen(false);
      toast.error(`Nothing was taken out. ${(error as Error).message}`);
    }
  };
  const takeOut = async () => {
    if (!removal) return;
    const what = `Took out ${ids.length} ${kind}${removal.along.length > 0 ? ` with ${listed(removal.along)}` : ""}`;
    const { ok, message } = await keepPatches(planId, removal.revision, removal.patches, what);
    if (ok) toast(`${what}. Undo brings them back.`);
    else toast.error(message, { duration: 12_000 });
    onDone();
  };
  return (
    <AlertDialog.Root open={open} onOpenChange={setOpen}>
      <Button disabled={ids.length === 0} onClick={() => void ask()}>
        Take out
      </Button>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-40 bg-black/30" />
        <AlertDialog.Content className="fixed top-1/3 left-1/2 z-50 w-96 max-w-[92vw] -translate-x-1/2 rounded border border-rule bg-panel p-4">
          <AlertDialog.Title className="font-semibold">
            Take out {ids.length} {kind}?
          </AlertDialog.Title>
          <AlertDialog.Description className="mt-1 text-sm text-quiet">
            {!removal
              ? "Looking what stands on them…"
              : removal.along.length > 0
                ? `With them go ${listed(removal.along)}.`
                : "Nothing else stands on them."}{" "}
            Undo brings all of it back.
          </AlertDialog.Description>
          <div className="mt-3 flex justify-end gap-2">
            <AlertDialog.Cancel className={buttonClass()}>Leave them</AlertDialog.Cancel>
            <AlertDialog.Action className={buttonClass("primary")} disabled={!removal} onClick={() => void takeOut()}>
              Take out
            </AlertDialog.Action>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
