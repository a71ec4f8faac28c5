import type { VisibilityState } from "@tanstack/react-table";
import { Columns3 } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import { Button } from "../ui";
import { COLUMNS, type RegisterKind } from "./columns";

const keyOf = (kind: RegisterKind) => `tejado-register-${kind}`;

/** Columns that stand there until somebody chose others. */
export const usualColumns = (kind: RegisterKind): VisibilityState =>
  Object.fromEntries(COLUMNS[kind].map(({ key, usual }) => [key, usual]));

/** Columns that were chosen last; the usual ones until somebody did. */
export function rememberedColumns(kind: RegisterKind): VisibilityState {
  const usual = usualColumns(kind);
  try {
    return { ...usual, ...(JSON.parse(localStorage.getItem(keyOf(kind)) ?? "{}") as VisibilityState) };
  } catch {
    return usual;
  }
}

/** Which columns are shown; the choice is remembered. */
export function ColumnsMenu({
  kind,
  visibility,
  onChange,
}: {
  kind: RegisterKind;
  visibility: VisibilityState;
  onChange: (next: VisibilityState) => void;
}) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>
        <Button className="ml-auto">
          <Columns3 size={14} aria-hidden="true" /> Columns
        </Button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" className="z-50 rounded border border-rule bg-panel p-1 shadow-lg">
          {COLUMNS[kind].map(({ key, label }) => (
            <DropdownMenu.CheckboxItem
              key={key}
              checked={visibility[key] ?? false}
              onSelect={(event) => event.preventDefault()}
              onCheckedChange={(on) => {
                const next = { ...visibility, [key]: on };
                onChange(next);
                localStorage.setItem(keyOf(kind), JSON.stringify(next));
              }}
              className="flex cursor-pointer items-center gap-2 rounded px-2 py-0.5 text-sm outline-none data-[highlighted]:bg-ground"
            >
              <span className="w-3">{visibility[key] ? "✓" : ""}</span> {label}
            </DropdownMenu.CheckboxItem>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
