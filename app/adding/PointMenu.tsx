import type { Place } from "#core/geodesy";
import { newSite, putPatch } from "#core/plan";
import type { ViewRow } from "#core/search";
import { DropdownMenu } from "radix-ui";
import { useMemo } from "react";
import { useAnswer } from "../ask/useAnswer";
import { useView } from "../ask/useView";
import { useDesk } from "../desk/DeskContext";
import type { MapPick } from "../map/types";
import { useFormats } from "../ui";
import { useAdding } from "./AddingContext";
import { MENU_ITEM } from "./AddMenu";

/** Id of the site that is only asked about; it is never kept. */
const ASKED_SITE = "asked-point";

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
              {!site && <ViewFrom place={point.place} />}
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

/** What a mast at a place would see, before anything is put there. */
function ViewFrom({ place }: { place: Place }) {
  const { world, draft } = useDesk();
  const formats = useFormats();
  const planId = world.plan.id;
  const mast = useMemo(() => newSite({ id: ASKED_SITE, planId, name: "this point", ...place }), [planId, place]);
  const patches = useMemo(() => [...draft.patches, putPatch("sites", mast)], [draft.patches, mast]);
  const view = useView<ViewRow>(planId, patches, { kind: "fromSite", siteId: ASKED_SITE, of: "subscribers" });
  if (world.subscribers.size === 0) return null;
  const height = formats.height(mast.structureHeightM);
  const served = view.rows?.filter((row) => row.served) ?? [];
  const people = served.reduce((sum, { id }) => sum + (world.subscribers.get(id)?.people ?? 0), 0);
  return (
    <span className="block" role="status">
      {view.failed
        ? `Its view is not known: ${view.failed}`
        : view.rows === null
          ? `View from a mast of ${height}: looking…`
          : `View from a mast of ${height}: ${served.length} of ${view.rows.length} customers (${people} people) could be served`}
    </span>
  );
}

/** Height of the ground at a place, m above the sea; null where unknown, undefined until the answer is here. */
function useGround(planId: string, place: Place | null): number | null | undefined {
  const { answer, failed } = useAnswer<{ groundAmslM: number | null }>(
    place && { address: `/plans/${planId}/ground?lat=${place.latDeg}&lon=${place.lonDeg}` },
  );
  return failed ? null : answer?.groundAmslM;
}
