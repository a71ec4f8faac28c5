export { hearersOf } from "./hearers";
export { ownNoiseAt, ownNoiseOf, pairsHeard, type KnownProfile } from "./ownNoise";
export { talksUnder } from "./talks";
export { hearingTouched } from "./touched";
