import type { Place } from "#core/geodesy";
import { DropdownMenu } from "radix-ui";
import { useEffect, useState } from "react";
import { useDesk } from "../desk/DeskContext";
import type { MapPick } from "../map/types";
import { useFormats } from "../ui";
import { useAdding } from "./AddingContext";
import { MENU_ITEM } from "./AddMenu";

/** A point of the plan that was asked about, and what stands there. */
export interface AskedPoint {
  place: Place;
  /** Where the menu opens, pixels from the plan's corner. */
  at: [leftPx: number, topPx: number];
  pick: MapPick | null;
}

/** What a right click or a long press offers: the ground's height, and what can stand there. */
export function PointMenu({ point, onClose }: { point: AskedPoint | null; onClose: () => void }) {
  const { world, select } = useDesk();
  const { putAt, start } = useAdding();
  const formats = useFormats();
  const ground = useGround(world.plan.id, point?.place ?? null);
  const site = point?.pick?.kind === "site" ? world.sites.get(point.pick.id) : undefined;
  return (
    <DropdownMenu.Root open={point !== null} onOpenChange={(open) => !open && onClose()} modal={false}>
      <DropdownMenu.Trigger asChild>
        <span
          aria-hidden="true"
          className="absolute size-0"
          style={point ? { left: point.at[0], top: point.at[1] } : { display: "none" }}
        />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          aria-label="This point"
          className="z-50 w-60 rounded border border-rule bg-panel p-1 shadow-lg"
        >
          {point && (
            <DropdownMenu.Label className="figures px-2 py-1 text-xs text-quiet">
              {formats.place(point.place)}
              <span className="block" role="status">
                {ground === undefined
                  ? "Ground: reading…"
                  : ground === null
                    ? "Ground: no raster knows it"
                    : `Ground ${formats.height(ground)} above the sea`}
              </span>
            </DropdownMenu.Label>
          )}
          {site ? (
            <>
              <DropdownMenu.Item className={MENU_ITEM} onSelect={() => start("sector", site.id)}>
                Put a sector on {site.name}
              </DropdownMenu.Item>
              <DropdownMenu.Item className={MENU_ITEM} onSelect={() => start("bridge", site.id)}>
                Begin a bridge at {site.name}
              </DropdownMenu.Item>
              <DropdownMenu.Item className={MENU_ITEM} onSelect={() => select({ kind: "site", id: site.id })}>
                See whom it could serve
              </DropdownMenu.Item>
            </>
          ) : (
            <>
              <DropdownMenu.Item className={MENU_ITEM} onSelect={() => putAt("site", point!.place)}>
                Put a site here, with its view
              </DropdownMenu.Item>
              <DropdownMenu.Item className={MENU_ITEM} onSelect={() => putAt("subscriber", point!.place)}>
                Put a customer here, and see who serves
              </DropdownMenu.Item>
            </>
          )}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/** Height of the ground at a place, m above the sea; null where unknown, undefined until the answer is here. */
function useGround(planId: string, place: Place | null): number | null | undefined {
  const [ground, setGround] = useState<number | null>();
  useEffect(() => {
    setGround(undefined);
    if (!place) return;
    const stop = new AbortController();
    fetch(`/plans/${planId}/ground?lat=${place.latDeg}&lon=${place.lonDeg}`, { signal: stop.signal })
      .then((response) => response.json() as Promise<{ groundAmslM: number | null }>)
      .then(({ groundAmslM }) => setGround(groundAmslM))
      .catch(() => !stop.signal.aborted && setGround(null));
    return () => stop.abort();
  }, [planId, place]);
  return ground;
}
