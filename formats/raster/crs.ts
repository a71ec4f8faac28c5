import proj4 from "proj4";
import { RasterError } from "./error";

/** A coordinate reference system in which a raster's cells lie. */
export interface Crs {
  name: string;
  isGeographic: boolean;
  /** [x, y] in the system to [longitude, latitude] on WGS 84, degrees. */
  toLonLat(at: [number, number]): [number, number];
  fromLonLat(at: [number, number]): [number, number];
}

// Systems that elevation models come in and proj4 does not carry itself. They share WGS 84's ellipsoid to within what a
// terrain cell can show.
for (let zone = 28; zone <= 38; zone++)
  proj4.defs(`EPSG:${25800 + zone}`, `+proj=utm +zone=${zone} +ellps=GRS80 +units=m`);
for (let zone = 1; zone <= 23; zone++)
  proj4.defs(`EPSG:${26900 + zone}`, `+proj=utm +zone=${zone} +datum=NAD83 +units=m`);
proj4.defs("EPSG:4258", "+proj=longlat +ellps=GRS80");
proj4.defs("EPSG:3035", "+proj=laea +lat_0=52 +lon_0=10 +x_0=4321000 +y_0=3210000 +ellps=GRS80 +units=m");

/** The system of an EPSG code. Throws RasterError for one that is not known here. */
export function crsOf(code: number): Crs {
  const name = `EPSG:${code}`;
  if (!proj4.defs(name))
    throw new RasterError(
      `the coordinate system ${name} is not known here; reproject the file to EPSG:4326 or a UTM zone and bring it again`,
    );
  const transform = proj4(name, "WGS84");
  const isGeographic = (proj4.defs(name) as { projName?: string }).projName === "longlat";
  const same = isGeographic && (code === 4326 || code === 4258 || code === 4269);
  return {
    name,
    isGeographic,
    toLonLat: same ? (at) => at : (at) => transform.forward(at) as [number, number],
    fromLonLat: same ? (at) => at : (at) => transform.inverse(at) as [number, number],
  };
}
