import { removalOf, type Removable } from "#core/plan";
import { listed } from "#core/words";
import { AlertDialog } from "radix-ui";
import { Button, buttonClass } from "../ui";
import { useDesk } from "../desk/DeskContext";

/** Takes something off the plan, after naming what goes along: a change in hand like any other, kept and undone as one. */
export function RemoveButton({ thing, name, word = "Remove" }: { thing: Removable; name: string; word?: string }) {
  return (
    <AlertDialog.Root>
      <AlertDialog.Trigger asChild>
        <Button className="text-xs">{word}</Button>
      </AlertDialog.Trigger>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-40 bg-black/30" />
        <AlertDialog.Content className="fixed top-1/3 left-1/2 z-50 w-96 max-w-[92vw] -translate-x-1/2 rounded border border-rule bg-panel p-4">
          <Question thing={thing} name={name} />
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}

/** What goes along is looked up only while it is asked: the sheets around the button are drawn with every move of the cursor. */
function Question({ thing, name }: { thing: Removable; name: string }) {
  const { world, draft, select } = useDesk();
  const { patches, along } = removalOf(world, [thing]);
  return (
    <>
      <AlertDialog.Title className="font-semibold">Remove {name}?</AlertDialog.Title>
      <AlertDialog.Description className="mt-1 text-sm text-quiet">
        {along.length > 0 ? `With it go ${listed(along)}.` : "Nothing else stands on it."} It is a change in hand: look
        at what it does, then keep or discard it. Undo brings all of it back.
      </AlertDialog.Description>
      <div className="mt-3 flex justify-end gap-2">
        <AlertDialog.Cancel className={buttonClass()}>Leave it</AlertDialog.Cancel>
        <AlertDialog.Action
          className={buttonClass("primary")}
          onClick={() => {
            draft.put(patches);
            select(null);
          }}
        >
          Remove
        </AlertDialog.Action>
      </div>
    </>
  );
}
