export {
  groupChannelsMHz,
  groupLinks,
  groupName,
  groupOn,
  groupStretchesMHz,
  quietChannelsMHz,
  quietestChannelMHz,
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
