export {
  groupChannelsMHz,
  groupName,
  groupOn,
  groupStretches,
  quietChannelsMHz,
  quietestChannelMHz,
  type OpenStretch,
} from "./channels";
export {
  attachTo,
  attachToSite,
  bestSector,
  clientOnSector,
  DEFAULT_BRIDGE_MHZ,
  proposeAccess,
  proposeBridge,
  proposeSector,
} from "./propose";
