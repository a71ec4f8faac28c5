/** What must be confirmed before anyone climbs. Tejado names the dangers; it does not judge them. */
export const CAUTIONS: readonly { key: string; text: string }[] = [
  {
    key: "power",
    text: "Power lines are farther away than the mast or pole is long, plus a margin, in every direction.",
  },
  { key: "fall", text: "Fall protection is worn and anchored; nobody stands below; nobody works alone." },
  { key: "structure", text: "The roof or mast has been judged fit to bear the load by whoever answers for it." },
  { key: "weather", text: "No lightning, ice or strong wind now or forecast for the time of the work." },
  { key: "exposure", text: "Transmitters on this structure are off or at the distance that their makers ask for." },
];

export const CAUTION_NOTE =
  "Local codes, the structure's owner and licensed electricians, riggers and engineers decide. Tejado has checked none of this.";
