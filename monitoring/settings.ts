import { NO_WATCH, watchSettingsSchema, type WatchSettings } from "#core/watch";
import { readWatch, type Store } from "#store";

/** How a plan is watched; what it was before anybody said where nobody did. */
export async function watchSettings(store: Store, planId: string): Promise<WatchSettings> {
  return settingsFrom((await readWatch(store.db, planId)).settings);
}

/** Settings as they were kept. */
export function settingsFrom(kept: unknown): WatchSettings {
  const parsed = watchSettingsSchema.safeParse(kept ?? {});
  return parsed.success ? parsed.data : NO_WATCH;
}
