/** What must be confirmed before anyone climbs. Tejado names the dangers; it does not judge them. */
export const CAUTIONS: readonly { key: string; text: string }[] = [
  { key: "fall", text: "Fall protection is worn and anchored by people trained to use it." },
  {
    key: "power",
    text: "Power lines are farther away than the mast or pole is long, plus a margin, in every direction.",
  },
  { key: "lightning", text: "No lightning is in sight, heard, or forecast for the time of the work." },
  { key: "weather", text: "Wind, ice, rain and light let people climb and hold a dish, now and until the end." },
  { key: "structure", text: "The roof or mast has been judged fit to bear the load by whoever answers for it." },
  { key: "exposure", text: "Transmitters on this structure are off or at the distance that their makers ask for." },
  { key: "lifting", text: "What is lifted is tied, and nobody stands below." },
  { key: "alone", text: "Nobody works alone, and somebody elsewhere knows where we are and when we are due." },
];

export const CAUTION_NOTE =
  "Local codes, the structure's owner and licensed electricians, riggers and engineers decide. Tejado has checked none of this.";
