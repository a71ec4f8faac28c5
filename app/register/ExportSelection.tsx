import { Popover } from "radix-ui";
import { Button, buttonClass } from "../ui";
import type { RegisterKind } from "./columns";

/** The chosen rows, or all that are shown, as a file. */
export function ExportSelection({ planId, kind, ids }: { planId: string; kind: RegisterKind; ids: string[] }) {
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <Button disabled={ids.length === 0}>Export {ids.length}</Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content sideOffset={4} className="z-50 rounded border border-rule bg-panel p-2 shadow-lg">
          <form method="post" action={`/plans/${planId}/export/file`} className="flex gap-1.5">
            <input type="hidden" name={kind} value="1" />
            <input type="hidden" name="ids" value={ids.join("\n")} />
            {["csv", "geojson", "kml", "gpx"].map((format) => (
              <button key={format} type="submit" name="format" value={format} className={buttonClass()}>
                {format.toUpperCase()}
              </button>
            ))}
          </form>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
