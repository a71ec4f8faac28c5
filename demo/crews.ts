import { proposeVisits } from "#core/crews";
import { worldOf, type Crew, type PlanRows, type Visit } from "#core/plan";

/** Two crews of the island. */
const crews = (planId: string): Crew[] => [
  {
    ...{ id: "crew-harbour", planId, name: "Harbour crew", people: "Ilda Rocha\nTomé Vaz" },
    ...{ radioChannel: "channel 7", phone: "+00 555 0107", logins: [] },
  },
  {
    ...{ id: "crew-ridge", planId, name: "Ridge crew", people: "Nuno Leal\nBea Coutinho" },
    ...{ radioChannel: "channel 7", phone: "+00 555 0112", logins: [] },
  },
];

/** When the first jobs are, and what of them is not right yet. */
const DAYS: readonly Partial<Visit>[] = [
  {
    day: "2026-12-01",
    startMinute: 480,
    crewAId: "crew-harbour",
    crewBId: "crew-ridge",
    packed: true,
    neighboursTold: true,
  },
  { day: "2026-12-01", startMinute: 780, crewAId: "crew-harbour", crewBId: "crew-ridge", climb: "asked", packed: true },
  { day: "2026-12-02", startMinute: 480, crewAId: "crew-ridge", crewBId: "crew-ridge", powerOff: "toAsk" },
  { day: "2026-12-02", startMinute: 510, crewBId: "crew-harbour", weather: "dry, wind under 8 m/s" },
  { day: "2026-12-02", startMinute: 540, crewBId: "crew-harbour" },
];
/** Jobs that the demo begins with: the bridges and the first customers. */
const COUNT = 8;

/** The plan with its crews and the first jobs. */
export function withCrews(rows: PlanRows): PlanRows {
  const { id } = rows.plan;
  let count = 0;
  const proposed = proposeVisits(worldOf(rows), () => `job-${++count}`, 1).slice(0, COUNT);
  return { ...rows, crews: crews(id), visits: proposed.map((visit, i) => ({ ...visit, ...DAYS[i] })) };
}
