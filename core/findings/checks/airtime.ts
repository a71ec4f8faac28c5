import { airtimeFaults, airtimeRemedies } from "../airtime";
import type { Check } from "./check";

export const airtime: Check = {
  id: "airtime",
  title: "Out of airtime",
  stage: "capacity",
  ofPlan: airtimeFaults,
  remedies: (world, { radioId }, tools) => (radioId === null ? [] : airtimeRemedies(world, radioId, tools)),
};
