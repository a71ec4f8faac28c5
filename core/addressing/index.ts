export { accessPoints, addressFaults, homeSiteOf, takenAddresses, type AddressFault } from "./plan";
export { proposeAddresses } from "./propose";
export {
  freeAddress,
  freeAddresses,
  isInSubnet,
  parsedAddress,
  parsedSubnet,
  sameText,
  subnetProblem,
} from "./subnets";
