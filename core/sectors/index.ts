export { accessLinksAt, HORIZON_STEP_DEG, siteAround, type Neighbour, type SiteAround } from "./around";
export { sectorCustomer, type SectorCustomer } from "./customers";
export { azimuthLossDb, chainsApartDeg, EDGE_DEPTHS_DB, edgesOf, shareOfDistance, type Edge } from "./edges";
export { gainTable, type GainRow } from "./gains";
export { beamTable, type BeamCustomer, type BeamRow } from "./receiveBeams";
export { evenHeadings, seamsOf, widestGapDeg, type Beam, type Seam } from "./seams";
export { bestHeading, bestTilt, headingTable, tiltTable, type HeadingRow, type TiltRow } from "./stands";
export { headingWords, tiltText, tiltWords, widthWords } from "./words";
