/**
 * Share of a channel's time that customers ask for: the sum of what each asks for over what each could get alone. Over 1 is more
 * than there is. A customer who asks for something and can get nothing makes it infinite: leave him out and say so.
 */
export function airtimeShare({
  customers,
}: {
  customers: readonly { demandMbps: number; rateMbps: number }[];
}): number {
  let share = 0;
  for (const { demandMbps, rateMbps } of customers) if (demandMbps > 0) share += demandMbps / rateMbps;
  return share;
}
