import { RateLimiterMemory, type RateLimiterRes } from "rate-limiter-flexible";

/** Wrong passwords of one login, and of one address whatever the login, within a quarter of an hour. */
const byLogin = new RateLimiterMemory({ points: 8, duration: 900 });
const byAddress = new RateLimiterMemory({ points: 60, duration: 900 });

const isOver = (state: RateLimiterRes | null, most: number) => state !== null && state.consumedPoints >= most;

/** Whether somebody has tried too often to try again now. */
export async function triedTooOften(login: string, address: string): Promise<boolean> {
  return isOver(await byLogin.get(login), byLogin.points) || isOver(await byAddress.get(address), byAddress.points);
}

/** Counts a wrong try. */
export async function countWrong(login: string, address: string): Promise<void> {
  await byLogin.penalty(login);
  await byAddress.penalty(address);
}

/** Forgets the wrong tries of a login that was opened. */
export const forgetWrong = (login: string): Promise<boolean> => byLogin.delete(login);
