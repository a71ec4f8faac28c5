/** How a bill is reckoned; each figure stands on the bill's page. */
export const BILL_RULES = {
  /** A loop before each gland that lets water drip, m, and slack over the measured run. */
  dripLoopM: 1,
  slackShare: 0.1,
  /** One spare for so many of a kind. */
  sparesOneIn: 10,
  /** Wrapped joints that one roll of each tape does. */
  jointsPerTape: 6,
} as const;
