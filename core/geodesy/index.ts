export { formatPlace, parseAxis } from "./coordinates";
export { declinationDeg } from "./declination";
export { flatM, KM_PER_DEG, M_PER_DEG } from "./flat";
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
