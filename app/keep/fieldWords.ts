/** Fields as people call them. */
const FIELD_WORDS: Record<string, string> = {
  heightM: "height",
  txPowerDbm: "power",
  frequencyMHz: "frequency",
  widthMHz: "width",
  timingGroup: "timing group",
  downShare: "share of the frame toward customers",
  arriveAtDbm: "customers’ level at the access point",
  antennaModelId: "antenna",
  radioModelId: "radio",
  polarization: "polarization",
  azimuthDeg: "azimuth",
  tiltDownDeg: "tilt",
  cableLossDb: "cable loss",
  bracketTurned: "bracket turned over",
  aRadioId: "from",
  carrierId: "carrier",
  foliageDepthM: "trees",
  growthStage: "stage of growth",
  reservedAddresses: "reserved addresses",
  licences: "licensed spectrum",
  mustDownMbps: "rate to be carried",
  mustUpMbps: "rate to be carried back",
  latDeg: "latitude",
  lonDeg: "longitude",
  structureKind: "structure",
  structureHeightM: "structure’s height",
  poleDiameterMm: "pole",
  freeMounts: "mounts for radios",
  isFeed: "feed",
  feedMbps: "feed’s rate",
  antennaHeightM: "antenna’s height",
  maxHeightM: "greatest height",
  demandMbps: "demand",
  demandUpMbps: "demand upward",
  behind: "wall or glass",
  ruleSetId: "rule set",
  ownRules: "own rules",
  kFactor: "k",
  rainRate001MmPerH: "rain rate",
  dN1NPerKm: "refractivity gradient",
  clearanceSchool: "clearance school",
  pointingErrorDeg: "pointing error",
  availabilityPercent: "availability",
  marginTargetDb: "fade margin",
  tiers: "tiers",
  usualMonthEur: "usual month",
  sectorWorkEur: "work of a sector",
  customerWorkEur: "work of a customer",
  oversubscription: "oversubscription",
  growthPercent: "growth of demand",
  gustMPerS: "gust",
  sunlessDays: "days without sun",
  budgetEur: "budget for kit",
  panelW: "panels",
  batteryAh: "battery",
  batteryV: "battery’s voltage",
  batteryKind: "battery’s kind",
  otherLoadW: "load besides radios",
  clearness: "clearness of the air",
  subnet: "network",
  switchPartId: "switch that feeds radios",
  upsWh: "battery behind the mains",
  ballastBaseM: "foot of its ballasted mount",
  ballastFootM: "height of that foot",
  clientSubnet: "customers’ network",
  vlan: "VLAN",
  clientVlan: "customers’ VLAN",
  jumperM: "jumpers",
  arresters: "surge arresters",
  iceMm: "ice",
  mastMomentNm: "moment that the owner allows",
  ethernetM: "cable to the injector",
  indoorM: "cable to the switch",
  cableKind: "cable",
  bracketId: "bracket",
  rainMarginDb: "margin in rain",
  proofFloorDbm: "proof’s floor",
  proofDeviationDb: "proof’s deviation",
  body: "sheet",
  rings: "outline",
};

/** A field's name in words: "structureHeightM" is "structure’s height". */
export function fieldWord(field: string): string {
  return FIELD_WORDS[field] ?? field;
}

/** A value in words: a comma of figures as they are written here, nothing as none. */
export function valueWord(value: unknown): string {
  if (value === null || value === undefined || value === "") return "none";
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (typeof value === "number") return String(value).replace("-", "−");
  if (typeof value === "string") return value;
  const text = JSON.stringify(value);
  return text.length > LONGEST_VALUE ? `${text.slice(0, LONGEST_VALUE)}…` : text;
}
const LONGEST_VALUE = 60;
