export { chooseSites, greedySites, isJoined, type ChosenSites, type SitesQuestion } from "./chooseSites";
