export { channelsMHz, groupChannelsMHz, groupName, groupOn, groupStretches, type OpenStretch } from "./channels";
export { quietChannelsMHz, quietestChannelMHz } from "./quiet";
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
