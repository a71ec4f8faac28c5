export { ownNoiseOf, pairsHeard, type KnownProfile } from "./ownNoise";
export { talksUnder } from "./talks";
