export { slowedCount } from "./slowing";
export { addedEur, lostLinks, trialOf, type Change, type Remedy, type Trial } from "./trial";
