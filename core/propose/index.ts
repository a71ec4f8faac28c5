export { groupChannelsMHz, groupLinks, groupName, groupOn, quietChannelsMHz, quietestChannelMHz } from "./channels";
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
