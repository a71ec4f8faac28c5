import { backUpDaily, type Store } from "#store";

/** Whether a backup is due is looked up this often, the first time once whoever started Tejado has had the machine for himself, ms. */
const FIRST_MS = 10 * 60 * 1000;
const EVERY_MS = 3600 * 1000;

/** Keeps a backup of each day while Tejado runs. */
export function backUpEachDay(store: Store, onFailure: (error: unknown) => void): void {
  const look = () => void backUpDaily(store).catch(onFailure);
  setTimeout(() => {
    look();
    setInterval(look, EVERY_MS).unref();
  }, FIRST_MS).unref();
}
