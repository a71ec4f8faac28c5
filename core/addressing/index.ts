export { accessPoints, addressFaults, homeSiteOf, networkFor, takenAddresses } from "./plan";
export { networkFaults } from "./networks";
export { proposeAddresses } from "./propose";
export { reservedBy, reservedOf, reservedProblem } from "./reserved";
export { renumbering, type Renumbering } from "./renumber";
export { freeAddress, hostCount, isInSubnet, parsedAddress, parsedSubnet, subnetProblem, type Taken } from "./subnets";
