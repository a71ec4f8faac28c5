/** A step of the install, in the order in which doing it out of turn costs another climb. */
export interface InstallStep {
  key: string;
  text: string;
  /** Said where the step is, and confirmed before it is taken. */
  caution?: string;
}

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

/** The order of work at one end of a link. */
export const INSTALL_STEPS: readonly InstallStep[] = [
  {
    key: "bench",
    text: "On the bench: same firmware at both ends, configured, encrypted, default password changed, paired and tested a few metres apart.",
  },
  {
    key: "bracket",
    text: "Bracket on the pole at the height given; lock bolts free, scales centred.",
    caution: "Haul, do not carry; keep the drop zone empty.",
  },
  {
    key: "join",
    text: "Join radio and antenna: guide pins and keyway first, then the clamps; remove any film that must come off before aiming.",
  },
  {
    key: "polarization",
    text: "Set the polarization given, the same at both ends; even and odd ports to the right feed; terminate unused ports.",
  },
  { key: "meter", text: "Before the gland goes on: connect to the alignment jack if the gland would cover it." },
  {
    key: "cable",
    text: "Outdoor shielded cable with drip loops; connectors dry, then sealed: electrical tape, butyl, electrical tape, half-overlapped.",
  },
  {
    key: "earth",
    text: "Earth the radio and the surge protectors at both ends of the cable.",
    caution: "Gauge, bonding and mains work are for a licensed electrician under the local code.",
  },
  { key: "coarse", text: "Aim coarsely: heading by compass, tilt by inclinometer, both ends." },
  {
    key: "sweep",
    text: "One end at a time: sweep azimuth, then elevation, through the peak and past it. A side lobe is stable, and 10 to 20 dB low.",
  },
  {
    key: "lock",
    text: "Within the band: lock azimuth, correct elevation, lock it, torque to the sheet, and read again, since locking moves it.",
  },
  {
    key: "leave",
    text: "Leave alignment mode (some radios only leave it on a reboot), photograph, write down the readings.",
  },
];
