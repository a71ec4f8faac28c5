export { feedingLinks, nearSite, stepsFromFeed } from "./feeding";
export {
  answering,
  answerOf,
  backboneOf,
  fedSites,
  isLinkServed,
  outcomeOf,
  outcomeSteps,
  peopleBehind,
  peopleBehindRadio,
  peopleBehindSite,
  summarize,
  type Backbone,
  type LinkSummary,
  type Outcome,
  type ProfileSource,
} from "./outcome";
export { changesNoise, noiseMadePeopleKm2 } from "./noiseMade";
