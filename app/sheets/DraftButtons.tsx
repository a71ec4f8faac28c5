import { Dialog } from "radix-ui";
import { useState } from "react";
import { counted } from "#core/words";
import { Button, Modal } from "../ui";
import { downloadDraft, editCount } from "../desk/asideDrafts";
import { useDesk } from "../desk/DeskContext";

/** A draft of more edits than this is discarded only when that was confirmed. */
const MOST_UNASKED = 3;

/** Discards the draft: at once where it is small, else once confirmed. */
export function DiscardButton({ busy }: { busy: boolean }) {
  const { draft } = useDesk();
  const [asking, setAsking] = useState(false);
  const edits = editCount(draft.patches);
  return (
    <>
      <Button
        onClick={() => (edits > MOST_UNASKED ? setAsking(true) : draft.discard())}
        disabled={busy}
        className="py-0.5"
      >
        Discard
      </Button>
      <Modal open={asking} onOpenChange={setAsking} title={`Discard ${counted(edits, "edit")}?`} showsTitle>
        <p className="text-sm">The draft is set aside: undo brings it back.</p>
        <div className="mt-3 flex gap-2">
          <Button
            look="primary"
            onClick={() => {
              setAsking(false);
              draft.discard();
            }}
          >
            Discard the draft
          </Button>
          <Dialog.Close asChild>
            <Button>Go on editing</Button>
          </Dialog.Close>
        </div>
      </Modal>
    </>
  );
}

/** Drafts that were discarded or set aside, each to be restored, downloaded or deleted. */
export function AsideDrafts() {
  const { draft, kept } = useDesk();
  const [isOpen, setOpen] = useState(false);
  const { aside } = draft;
  if (aside.length === 0) return null;
  return (
    <>
      <Button look="quiet" className="py-0 text-xs" onClick={() => setOpen(true)}>
        {counted(aside.length, "draft")} set aside
      </Button>
      <Modal open={isOpen} onOpenChange={setOpen} title="Drafts set aside" showsTitle>
        <ul className="space-y-2 text-sm">
          {aside.map(({ at, why, patches }) => (
            <li key={at} className="flex flex-wrap items-center gap-2">
              <span className="mr-auto">
                {counted(editCount(patches), "edit")}, {why} {new Date(at).toLocaleString("en-GB")}
              </span>
              <Button
                look="primary"
                onClick={() => {
                  setOpen(false);
                  draft.restore(at);
                }}
              >
                Restore
              </Button>
              <Button onClick={() => downloadDraft(kept.plan.id, patches)}>Download</Button>
              <Button onClick={() => draft.dropAside(at)}>Delete</Button>
            </li>
          ))}
        </ul>
      </Modal>
    </>
  );
}
