import type { Plan } from "./schema";

/** A plan's settings before anybody chose: what serves most networks without study. */
export function newPlan(own: Pick<Plan, "id" | "name" | "createdAt"> & Partial<Plan>): Plan {
  return {
    ruleSetId: "cfr47",
    ownRules: [],
    kFactor: 4 / 3,
    rainRate001MmPerH: null,
    dN1NPerKm: null,
    clearanceSchool: "sixtyPercent",
    climate: "temperate",
    season: "inLeaf",
    pointingErrorDeg: 0,
    availabilityPercent: 99.95,
    marginTargetDb: 10,
    rainMarginDb: 3,
    proofFloorDbm: -65,
    proofDeviationDb: 4,
    tiers: [],
    usualMonthEur: 0,
    sectorWorkEur: 0,
    customerWorkEur: 0,
    oversubscription: 1,
    growthPercent: 0,
    gustMPerS: 40,
    sunlessDays: 4,
    budgetEur: 0,
    iceMm: 0,
    learned: null,
    reservedAddresses: "",
    licences: [],
    isDemo: false,
    ...own,
  };
}
