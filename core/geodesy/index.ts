export { formatPlace, parseAxis, type CoordinateStyle } from "./coordinates";
export { declinationDeg, DECLINATION_YEARS } from "./declination";
export {
  destination,
  inverseGeodesic,
  normalizeAzimuthDeg,
  placesAlong,
  signedAngleDeg,
  type Geodesic,
  type Place,
  type PlacesAlong,
} from "./geodesic";
export { sunAt } from "./sun";
