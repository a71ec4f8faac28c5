import { airtimeFaults, airtimeRemedies } from "../airtime";
import type { Check } from "./check";

export const airtime: Check = {
  id: "airtime",
  title: "Out of airtime",
  stage: "paths",
  ofPlan: airtimeFaults,
  remedies: (world, { radioId }, profileBetween) =>
    radioId === null ? [] : airtimeRemedies(world, radioId, profileBetween),
};
