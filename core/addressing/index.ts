export {
  accessPoints,
  addressFaults,
  homeSiteOf,
  networkFor,
  takenAddresses,
  type AddressFault,
  type RoleNetwork,
} from "./plan";
export { proposeAddresses } from "./propose";
export { reservedBy, reservedOf, reservedProblem } from "./reserved";
export { renumbering, type Renumbering, type RenumberStep } from "./renumber";
export {
  firstAddress,
  freeAddress,
  freeAddresses,
  isInSubnet,
  parsedAddress,
  parsedSubnet,
  sameText,
  subnetProblem,
  type Taken,
} from "./subnets";
