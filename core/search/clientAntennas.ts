import { hearsWidths, peakGainDbi } from "../antenna";
import { earsOf, listeningIn } from "../interference";
import { answerLink, type HeardRadio } from "../link";
import { antennasFor, withPowerInCap } from "../kit";
import { isLinkServed, type ProfileSource } from "../outcome";
import { linkEnds, radioPatches, withPatches, type Patch, type World } from "../plan";

/** A customer with one antenna of the library, aimed at his sector. */
export interface ClientAntennaRow {
  antennaModelId: string;
  antenna: string;
  isOwn: boolean;
  gainDbi: number;
  txPowerDbm: number;
  isServed: boolean;
  /** On one chain at the customer, and the weaker way's margin left; null where the path has no answer. */
  levelDbm: number | null;
  marginLeftDb: number | null;
  snrDb: number | null;
  downMbps: number;
  upMbps: number;
  /** The plan's other transmitters in his channel, strongest first, dBm on one chain. */
  heard: HeardRadio[];
  heardDbm: number | null;
  /** Width within 20 dB of the peak: of the main lobe, and to the outermost lobe that strong, degrees. */
  mainDeg: number;
  hearsDeg: number;
  /** Change of price, euro. */
  costEur: number;
  patches: Patch[];
}

const MOST_TOLD = 3;

/**
 * Every antenna that a customer could carry, each answered in full with what it hears of everybody else by its own pattern: cheapest
 * first. Throws RangeError for a link that ends at no customer.
 */
export function clientAntennas(world: World, linkId: string, between: ProfileSource): ClientAntennaRow[] {
  const link = world.links.get(linkId);
  const radio = link && world.radios.get(link.bRadioId);
  if (!link || !radio || radio.subscriberId === null)
    throw new RangeError(`There is no customer's link "${linkId}" in the plan.`);
  const own = world.antennaModels.get(radio.antennaModelId)!;
  const model = world.radioModels.get(radio.radioModelId)!;
  return antennasFor(world, "subscriber", radio.frequencyMHz, model).map((antenna): ClientAntennaRow => {
    const isOwn = antenna.id === own.id;
    const carried = isOwn
      ? radio
      : {
          ...withPowerInCap(world, { radio: { ...radio, txPowerDbm: model.powerMaxDbm }, model, antenna }, "ptmp"),
          antennaModelId: antenna.id,
        };
    const patches = isOwn ? [] : radioPatches(world, carried);
    const tried = withPatches(world, patches);
    const { a, b } = linkEnds(tried, link);
    const heard = earsOf(listeningIn(tried), between)(link);
    const { kind, foliageDepthM } = link;
    const answer = answerLink({
      plan: tried.plan,
      kind,
      foliageDepthM,
      a,
      b,
      heard,
      profile: between(a.place, b.place),
    });
    const { path } = answer;
    const { mainDeg, hearsDeg } = hearsWidths(antenna, radio.polarization);
    return {
      ...{ antennaModelId: antenna.id, antenna: antenna.model, isOwn, mainDeg, hearsDeg, patches },
      gainDbi: peakGainDbi(antenna, radio.frequencyMHz, radio.polarization),
      txPowerDbm: carried.txPowerDbm,
      isServed: isLinkServed(tried, link, answer),
      levelDbm: path && path.aToB.chainLevelDbm,
      marginLeftDb: path && Math.min(path.aToB.marginLeftDb, path.bToA.marginLeftDb),
      snrDb: path && path.aToB.snrDb,
      downMbps: path?.aToB.rateMbps ?? 0,
      upMbps: path?.bToA.rateMbps ?? 0,
      heard: heard.b.radios.slice(0, MOST_TOLD),
      heardDbm: heard.b.dbm,
      costEur: antenna.priceEur - own.priceEur,
    };
  });
}

/** The least antenna that does the job: of those that serve with the margin wanted the cheapest, of equals the one with least gain. */
export function leastClientAntenna(rows: readonly ClientAntennaRow[]): ClientAntennaRow | null {
  return (
    [...rows].filter(({ isServed }) => isServed).sort((x, y) => x.costEur - y.costEur || x.gainDbi - y.gainDbi)[0] ??
    null
  );
}
