export { ownNoiseOf, pairsHeard, talksUnder, type KnownProfile } from "./ownNoise";
