export { buildSites, MOST_LINKED, type BuiltSites } from "./build";
export { terrainCandidates, type SiteStyle } from "./highGround";
export { chooseSites, greedySites, isJoined, type ChosenSites, type SitesQuestion } from "./chooseSites";
export { peopleReached, sitesQuestion } from "./question";
export { clearHops, siteReach, type Hop, type SiteReach } from "./reach";
export { customersOf, WHOM, wantedCustomers, withoutLinksOf, type Wanted, type Whom } from "./wanted";
