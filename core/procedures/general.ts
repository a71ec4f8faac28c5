import { procedureSchema } from "../plan";

/** What holds for everything that goes up, whatever its maker says; a family's own step of the same id takes its place. */
export const GENERAL = procedureSchema.parse({
  id: "general",
  name: "In general",
  steps: [
    {
      id: "bench",
      text: "On the bench: same firmware at both ends, configured, encrypted, default password changed, paired and tested a few metres apart with the power turned down.",
      trap: "A radio of another firmware does not see its access point: nobody finds that out on a roof.",
      minutes: 20,
    },
    {
      id: "bracket",
      text: "Bracket on the pole at the height given; lock bolts free, scales centred.",
      caution: "Haul, do not carry; keep the drop zone empty.",
      after: ["bench"],
      minutes: 15,
    },
    {
      id: "join",
      text: "Join radio and antenna: guide pins and keyway first, then the clamps.",
      after: ["bench"],
      minutes: 10,
    },
    {
      id: "polarization",
      text: "Set the polarization given, the same at both ends.",
      diagram: "polarization",
      trap: "V at one end and H at the other costs 20 dB or more, and looks like bad aim.",
      before: ["coarse"],
      minutes: 3,
    },
    {
      id: "cable",
      text: "Outdoor shielded cable with drip loops and strain relief; plugs dry.",
      hint: "At most 100 m of copper to the switch, both sides of the injector counted.",
      before: ["power"],
      minutes: 20,
    },
    {
      id: "earth",
      text: "Earth the radio and the surge arresters at both ends of the cable.",
      caution: "Gauge, bonding and mains work are for a licensed electrician under the local code.",
      before: ["power"],
      minutes: 15,
    },
    {
      id: "power",
      text: "Power on, with the injector that the radio asks for and no other; wait until it has started.",
      caution: "The wrong injector destroys the radio.",
      minutes: 5,
    },
    {
      id: "coarse",
      text: "Aim coarsely: heading by compass, tilt by inclinometer, at both ends.",
      hint: "Stand away from steel while you read the compass.",
      after: ["bracket", "join"],
      minutes: 10,
    },
    {
      id: "sweep",
      text: "One end at a time: sweep azimuth, then elevation, through the peak and past it.",
      trap: "A side lobe is stable, and 10 to 20 dB low: without the sweep past it nobody notices.",
      after: ["coarse", "power"],
      minutes: 20,
    },
    {
      id: "lock",
      text: "Within the band: lock azimuth, correct elevation, lock it, and read again.",
      trap: "Locking moves the antenna: the level that counts is the one after it.",
      after: ["sweep"],
      minutes: 10,
    },
    {
      id: "seal",
      text: "Seal what is open: gland by hand, joints wrapped, unused ports closed.",
      after: ["cable", "lock"],
      minutes: 10,
    },
    {
      id: "leave",
      text: "Photograph, write down the readings and both serial numbers; take nothing off that is a seal or a label.",
      after: ["lock", "seal"],
      minutes: 10,
    },
  ],
});
