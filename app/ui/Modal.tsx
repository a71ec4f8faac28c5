import { Dialog } from "radix-ui";
import type { ReactNode } from "react";

/** A dialog over the page. Its title is for those who do not see it, unless `showsTitle`. */
export function Modal({
  open,
  onOpenChange,
  title,
  showsTitle = false,
  children,
}: {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  title: string;
  showsTitle?: boolean;
  children: ReactNode;
}) {
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/30" />
        <Dialog.Content
          aria-describedby={undefined}
          className={`fixed top-24 left-1/2 z-50 w-120 max-w-[92vw] -translate-x-1/2 rounded border border-rule bg-panel shadow-xl ${showsTitle ? "p-4" : "p-2"}`}
        >
          <Dialog.Title className={showsTitle ? "mb-2 font-semibold" : "sr-only"}>{title}</Dialog.Title>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
