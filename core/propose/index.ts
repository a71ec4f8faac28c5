export {
  channelsMHz,
  groupChannelsMHz,
  groupName,
  groupOn,
  groupStretches,
  quietChannelsMHz,
  quietestChannelMHz,
  type OpenStretch,
} from "./channels";
export { choosingIn, type Choosing } from "./choosing";
export {
  attachTo,
  attachToSite,
  bestSector,
  clientOnSector,
  DEFAULT_BRIDGE_MHZ,
  firstAccess,
  firstBridge,
  firstClient,
  proposeAccess,
  proposeBridge,
  proposeSector,
  type Proposed,
} from "./propose";
