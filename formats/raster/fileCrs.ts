import { crsFromDefinition, crsOf, type Crs } from "./crs";
import { RasterError } from "./error";
import { LENGTH_UNITS_M } from "./tiffValues";

const USER_DEFINED = 32767;
/** Ellipsoids by EPSG code, as proj4 names them; only those of datums that lie within a cell of WGS 84. */
const ELLIPSOIDS: Record<number, string> = { 7019: "GRS80", 7030: "WGS84" };
const MODERN_DATUMS = [4258, 4269, 4283, 4326, 4167, 4171, 4674, 6258, 6269, 6283, 6326, 6167, 6171, 6674, 7844];

type Keys = Record<string, unknown>;
const numberOf = (keys: Keys, name: string): number | null => {
  const value = keys[name];
  return typeof value === "number" && Number.isFinite(value) ? value : null;
};

/** Degrees, by EPSG code: of an angle, and as whoever wrote them wants them shown. */
const DEGREES = [9102, 9122];

/** The coordinate system of a GeoTIFF: by its EPSG code, or by the projection that its own keys spell out. Throws RasterError. */
export function crsOfKeys(keys: Keys): Crs {
  const projected = numberOf(keys, "ProjectedCSTypeGeoKey");
  const geographic = numberOf(keys, "GeographicTypeGeoKey");
  if (projected !== null && projected > 0 && projected < USER_DEFINED) return crsOf(projected);
  if (projected === USER_DEFINED || numberOf(keys, "ProjCoordTransGeoKey") !== null)
    return crsFromDefinition(definitionOf(keys), "a projection of its own");
  const unit = numberOf(keys, "GeogAngularUnitsGeoKey");
  if (unit !== null && !DEGREES.includes(unit))
    throw new RasterError(`the GeoTIFF counts its coordinates in the unit EPSG:${unit}; degrees were expected`, {
      todo: "Reproject it to EPSG:4326 and bring it again.",
    });
  if (geographic !== null && geographic > 0 && geographic < USER_DEFINED) return crsOf(geographic);
  throw new RasterError("the GeoTIFF names its coordinate system neither by an EPSG code nor by its projection");
}

function definitionOf(keys: Keys): string {
  const value = (name: string, otherwise = 0) => numberOf(keys, name) ?? otherwise;
  const required = (...names: string[]) => {
    for (const name of names) {
      const found = numberOf(keys, name);
      if (found !== null) return found;
    }
    throw new RasterError(`the GeoTIFF's projection lacks its ${names[0]}`);
  };
  const lonName = ["ProjNatOriginLongGeoKey", "ProjFalseOriginLongGeoKey", "ProjCenterLongGeoKey"];
  const latName = ["ProjNatOriginLatGeoKey", "ProjFalseOriginLatGeoKey", "ProjCenterLatGeoKey"];
  const unit = unitOf(keys);
  // A false origin is written in the file's unit; proj4 wants it in metres.
  const falseOrigin = `+x_0=${unit.metres * value("ProjFalseEastingGeoKey", value("ProjFalseOriginEastingGeoKey"))} +y_0=${unit.metres * value("ProjFalseNorthingGeoKey", value("ProjFalseOriginNorthingGeoKey"))}`;
  const scale = `+k=${value("ProjScaleAtNatOriginGeoKey", 1)}`;
  const parallels = () => `+lat_1=${required("ProjStdParallel1GeoKey")} +lat_2=${required("ProjStdParallel2GeoKey")}`;
  const method = numberOf(keys, "ProjCoordTransGeoKey");
  const shapes: Record<number, () => string> = {
    1: () => `+proj=tmerc +lat_0=${required(...latName)} +lon_0=${required(...lonName)} ${scale}`,
    7: () => `+proj=merc +lon_0=${required(...lonName)} ${scale}`,
    8: () => `+proj=lcc ${parallels()} +lat_0=${required(...latName)} +lon_0=${required(...lonName)}`,
    9: () =>
      `+proj=lcc +lat_1=${required(...latName)} +lat_0=${required(...latName)} +lon_0=${required(...lonName)} +k_0=${value("ProjScaleAtNatOriginGeoKey", 1)}`,
    10: () => `+proj=laea +lat_0=${required(...latName)} +lon_0=${required(...lonName)}`,
    11: () => `+proj=aea ${parallels()} +lat_0=${required(...latName)} +lon_0=${required(...lonName)}`,
  };
  const shape = method === null ? undefined : shapes[method];
  if (!shape) throw new RasterError(`the GeoTIFF's projection (method ${method ?? "none"}) is not known here`);
  return `${shape()} ${falseOrigin} ${datumOf(keys)} +units=${unit.name} +no_defs`;
}

/** The datum, as far as it is sure to lie within a terrain cell of WGS 84. */
function datumOf(keys: Keys): string {
  const geographic = numberOf(keys, "GeographicTypeGeoKey");
  const datum = numberOf(keys, "GeogGeodeticDatumGeoKey");
  if ((geographic !== null && MODERN_DATUMS.includes(geographic)) || (datum !== null && MODERN_DATUMS.includes(datum)))
    return "+ellps=GRS80 +towgs84=0,0,0";
  const ellipsoid = ELLIPSOIDS[numberOf(keys, "GeogEllipsoidGeoKey") ?? 0];
  if (ellipsoid && (geographic === null || geographic === USER_DEFINED)) return `+ellps=${ellipsoid} +towgs84=0,0,0`;
  throw new RasterError(`the GeoTIFF's datum (${geographic ?? "none"}) is not known here`, {
    todo: "Reproject it to EPSG:4326 and bring it again.",
  });
}

/** Units of length by EPSG code, as proj4 names them. */
const UNIT_NAMES: Record<number, string> = { 9001: "m", 9002: "ft", 9003: "us-ft" };

function unitOf(keys: Keys): { name: string; metres: number } {
  const code = numberOf(keys, "ProjLinearUnitsGeoKey") ?? 9001;
  const [name, metres] = [UNIT_NAMES[code], LENGTH_UNITS_M[code]];
  if (name === undefined || metres === undefined)
    throw new RasterError(`the GeoTIFF counts its coordinates in the unit EPSG:${code}, which is not known here`);
  return { name, metres };
}
