export { accessLinksAt, HORIZON_STEP_DEG, siteAround, type SiteAround } from "./around";
export { sectorCustomer, type SectorCustomer } from "./customers";
export { azimuthLossDb, chainsApartDeg, edgesOf, shareOfDistance } from "./edges";
export { gainTable, type GainRow } from "./gains";
export { beamTable, type BeamCustomer, type BeamRow } from "./receiveBeams";
export { evenHeadings, seamsOf, widestGapDeg } from "./seams";
export { bestHeading, bestTilt, headingTable, tiltTable, type HeadingRow, type TiltRow } from "./stands";
export { headingWords, tiltText, tiltWords, widthWords } from "./words";
