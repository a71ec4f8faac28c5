import { NO_WATCH, watchSettingsSchema, type WatchSettings } from "#core/watch";
import { readWatch, type Store } from "#store";

/** How a plan is watched; what it was before anybody said where nobody did. */
export async function watchSettings(store: Store, planId: string): Promise<WatchSettings> {
  const { settings } = await readWatch(store.db, planId);
  const parsed = watchSettingsSchema.safeParse(settings ?? {});
  return parsed.success ? parsed.data : NO_WATCH;
}
