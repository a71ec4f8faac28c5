import { Plus } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import { useRef } from "react";
import { Button } from "../ui";
import { ADDABLE } from "./addable";
import { useAdding } from "./AddingContext";

export const MENU_ITEM =
  "cursor-pointer rounded px-2 py-1 text-sm outline-none data-[highlighted]:bg-ground data-[highlighted]:text-clay data-[disabled]:opacity-50";

/** The control that puts things on the plan; `isFirst` marks the one that the key opens. */
export function AddMenu({ isFirst = false }: { isFirst?: boolean }) {
  const { start, isMenuOpen, setMenuOpen } = useAdding();
  const hasChosen = useRef(false);
  return (
    <DropdownMenu.Root modal={false} {...(isFirst ? { open: isMenuOpen, onOpenChange: setMenuOpen } : {})}>
      <DropdownMenu.Trigger asChild>
        <Button className={isFirst ? "px-2 py-0.5" : ""} title="Add a site, a customer, a sector or a bridge (N)">
          <Plus size={15} aria-hidden="true" /> Add
        </Button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          // What was chosen asks its own question: the focus belongs there, not back on the button.
          onCloseAutoFocus={(event) => {
            if (hasChosen.current) event.preventDefault();
            hasChosen.current = false;
          }}
          className="z-50 rounded border border-rule bg-panel p-1 shadow-lg"
        >
          {ADDABLE.map(({ kind, word }) => (
            <DropdownMenu.Item
              key={kind}
              textValue={word}
              className={MENU_ITEM}
              onSelect={() => {
                hasChosen.current = true;
                start(kind);
              }}
            >
              A {word}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
