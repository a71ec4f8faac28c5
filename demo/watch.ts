import type { Alarm, PlanRows } from "#core/plan";
import type { PlannedFault } from "#core/watch";

/** The day up to which the island has been played. */
export const DEMO_CLOCK_DAY = "2026-11-26";

/** Customers of the north tower's sector, all of whom its noise hurts. */
const NORTH = ["19", "20", "21", "22", "23", "24", "25"];

/** What went wrong on the island in its year: a bridge that a storm turned, noise on a sector since spring, a customer's radio that starts anew each night. */
export const DEMO_FAULTS: PlannedFault[] = [
  { kind: "moved", linkId: "link-long", side: "b", degrees: 1.6, fromDay: "2026-09-22", untilDay: "" },
  ...NORTH.map((number): PlannedFault => ({
    ...{ kind: "outsider", linkId: `link-sub-${number}`, side: "a", riseDb: 8, onlyByDay: false },
    ...{ fromDay: "2026-09-14", untilDay: "" },
  })),
  { kind: "restarts", linkId: "link-sub-31", side: "b", atHour: 3, fromDay: "2026-10-12", untilDay: "" },
];

/** What the watch made of it: the first look at the island finds these again, and nothing else. */
const ALARMS: readonly Alarm[] = [
  {
    id: "alarm-noise-20710-link-sub-19",
    planId: "isla-orvena",
    linkId: "link-sub-19",
    linkIds: ["link-sub-19", "link-sub-20", "link-sub-21", "link-sub-22", "link-sub-23", "link-sub-24", "link-sub-25"],
    radioId: "ap-tower-s",
    kind: "noise",
    sinceDay: "2026-09-14",
    raisedDay: "2026-09-14",
    endedDay: "",
    what: "noise rose by 7.9 dB at Tower south, which looks 205° true",
    value: 7.9,
    unit: "dB",
    causes: [
      {
        cause: "outsider",
        odds: 0.853,
        because: "noise 7.9 dB up, nothing of the plan was changed",
      },
      {
        cause: "polarization",
        odds: 0.104,
        because: "29 % of the rate lost beyond what the level explains, it came within days",
      },
      {
        cause: "chainDead",
        odds: 0.026,
        because: "it came within days",
      },
      {
        cause: "water",
        odds: 0.016,
        because: "after much rain",
      },
      {
        cause: "ownChange",
        odds: 0.002,
        because: "",
      },
    ],
    state: "open",
    seenBy: "",
    closedWhy: "",
    visitId: null,
  },
  {
    id: "alarm-level-20720-link-long",
    planId: "isla-orvena",
    linkId: "link-long",
    linkIds: ["link-long"],
    radioId: null,
    kind: "level",
    sinceDay: "2026-09-22",
    raisedDay: "2026-09-24",
    endedDay: "",
    what: "the level fell by 3.0 dB, both ways; levels do not tell which end moved",
    value: 3,
    unit: "dB",
    causes: [
      {
        cause: "moved",
        odds: 0.921,
        because: "it came within days, in the windiest 1 % of days, both chains alike, both ways, it stayed",
      },
      {
        cause: "pathGrown",
        odds: 0.062,
        because: "while leaves were growing, both chains alike, both ways, 3.8 dB lost",
      },
      {
        cause: "polarization",
        odds: 0.01,
        because: "without more noise, it came within days",
      },
      {
        cause: "chainDead",
        odds: 0.005,
        because: "it came within days",
      },
      {
        cause: "water",
        odds: 0.002,
        because: "",
      },
      {
        cause: "ownChange",
        odds: 0,
        because: "",
      },
      {
        cause: "ice",
        odds: 0,
        because: "both chains alike",
      },
    ],
    state: "open",
    seenBy: "",
    closedWhy: "",
    visitId: null,
  },
  {
    id: "alarm-restarts-20740-link-sub-31",
    planId: "isla-orvena",
    linkId: "link-sub-31",
    linkIds: ["link-sub-31"],
    radioId: null,
    kind: "restarts",
    sinceDay: "2026-10-12",
    raisedDay: "2026-10-14",
    endedDay: "",
    what: "8 restarts in a week",
    value: 8,
    unit: "restarts",
    causes: [
      {
        cause: "firmware",
        odds: 0.982,
        because: "94 % of the restarts within the same hour",
      },
      {
        cause: "supplyFault",
        odds: 0.018,
        because: "",
      },
    ],
    state: "open",
    seenBy: "",
    closedWhy: "",
    visitId: null,
  },
];

/** The plan with what its watch has raised. */
export const withAlarms = (rows: PlanRows): PlanRows => ({ ...rows, alarms: [...ALARMS] });
