/** What jobs name that belong to no plan. */
export const NO_PLAN = "-";
