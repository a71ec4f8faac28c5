import { Popover } from "radix-ui";
import { useState } from "react";
import { Button, SelectField, TextField } from "../ui";
import type { RegisterColumn } from "./columns";

/** Sets one field of all chosen rows. */
export function SetForAll({
  columns,
  count,
  onSet,
}: {
  columns: RegisterColumn[];
  count: number;
  onSet: (column: RegisterColumn, text: string) => void;
}) {
  const [open, setOpen] = useState(false);
  const editable = columns.filter(({ key }) => key !== "name");
  const [key, setKey] = useState(editable[0]!.key);
  const column = editable.find((one) => one.key === key) ?? editable[0]!;
  const choices = column.choices ?? (column.type === "yesno" ? ["yes", "no"] : null);
  const [text, setText] = useState("");
  const value = choices ? (choices.includes(text) ? text : choices[0]!) : text;
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <Button disabled={count === 0}>Set for {count} chosen</Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          sideOffset={4}
          className="z-50 w-64 space-y-2 rounded border border-rule bg-panel p-3 shadow-lg"
        >
          <SelectField label="Field" value={key} onChange={(event) => setKey(event.target.value)}>
            {editable.map((one) => (
              <option key={one.key} value={one.key}>
                {one.label}
              </option>
            ))}
          </SelectField>
          {choices ? (
            <SelectField label="Becomes" value={value} onChange={(event) => setText(event.target.value)}>
              {choices.map((one) => (
                <option key={one}>{one}</option>
              ))}
            </SelectField>
          ) : (
            <TextField label="Becomes" value={text} onChange={(event) => setText(event.target.value)} />
          )}
          <Button
            look="primary"
            onClick={() => {
              onSet(column, value);
              setOpen(false);
            }}
          >
            Set for {count}
          </Button>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
