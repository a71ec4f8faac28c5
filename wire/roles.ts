/** What somebody may do in a plan. */
export const ROLES = ["owner", "planner", "crew", "viewer"] as const;
export type Role = (typeof ROLES)[number];

/** An invitation that nobody takes is void after so many days. */
export const INVITATION_DAYS = 7;
