export {
  accessPoints,
  addressFaults,
  homeSiteOf,
  networkFor,
  takenAddresses,
  type AddressFault,
  type RoleNetwork,
} from "./plan";
export { networkFaults, type NetworkFault } from "./networks";
export { proposeAddresses } from "./propose";
export { reservedBy, reservedOf, reservedProblem } from "./reserved";
export { renumbering, type Renumbering, type RenumberStep } from "./renumber";
export {
  firstAddress,
  freeAddress,
  freeAddresses,
  hostCount,
  isInSubnet,
  parsedAddress,
  parsedSubnet,
  sameText,
  subnetProblem,
  type Taken,
} from "./subnets";
