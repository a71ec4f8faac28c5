export { hearersOf } from "./hearers";
export { ownNoiseOf, pairsHeard } from "./ownNoise";
export { talksUnder } from "./talks";
