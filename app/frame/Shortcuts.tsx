import { Dialog } from "radix-ui";
import { STAGES } from "../stages";
import { Modal } from "../ui";

type Line = [keys: string, what: string];

/** Stages on one line of the list. */
const STAGES_A_LINE = 5;
/** The keys of all stages, as their manifests say. */
const GO_TO: readonly Line[] = Array.from({ length: Math.ceil(STAGES.length / STAGES_A_LINE) }, (_, i) => {
  const some = STAGES.slice(i * STAGES_A_LINE, (i + 1) * STAGES_A_LINE);
  return [
    `G then ${some.map(({ key }) => key.toUpperCase()).join(", ")}`,
    `Go to ${some.map(({ label }) => label).join(", ")}`,
  ];
});

const KEYS: readonly Line[] = [
  ["/ or Ctrl K", "Find a place, link or stage"],
  ...GO_TO,
  ["J and K", "Next and previous in the list"],
  ["Arrows", "Nudge the focused height, heading, tilt, power or channel; Shift for ten steps"],
  ["N", "Add a site, a customer, a sector or a bridge"],
  ["Enter", "Keep the change in hand"],
  ["Esc", "Close the innermost thing that is open"],
  ["Ctrl Z, Ctrl Shift Z", "Undo (a discarded draft first), redo"],
  ["On the plan: arrows, + and −", "Move and zoom"],
  ["On the plan: Enter", "Pick what stands under the cross"],
  ["On the plan: M", "Measure a distance"],
  ["On the plan: Shift F10", "What can stand under the cross, and the ground’s height there"],
  ["?", "This list"],
];

export function Shortcuts({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  return (
    <Modal open={open} onOpenChange={onOpenChange} title="Keys" showsTitle>
      <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1 text-sm">
        {KEYS.map(([keys, what]) => (
          <div key={keys} className="contents">
            <dt>
              <kbd className="text-quiet">{keys}</kbd>
            </dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
      <Dialog.Close className="mt-4 rounded border border-rule px-3 py-1 text-sm hover:border-clay">Close</Dialog.Close>
    </Modal>
  );
}
