export { accessLinksAt, HORIZON_STEP_DEG, siteAround, type Neighbour, type SiteAround } from "./around";
export { sectorCustomer, type SectorCustomer } from "./customers";
export { azimuthLossDb, chainsApartDeg, EDGE_DEPTHS_DB, edgesOf, shareOfDistance, type Edge } from "./edges";
export { evenHeadings, seamsOf, widestGapDeg, type Beam, type Seam } from "./seams";
export { bestTilt, tiltTable, type TiltRow } from "./tilts";
export { tiltWords, widthWords } from "./words";
