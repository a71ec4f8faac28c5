import { createRequire } from "node:module";
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

/**
 * Shifts to WGS 84 of old datums, by what the table says in their place: a grid that is not shipped, or seven parameters. Each was
 * held against gdal's own transformation to a few metres. The table's other seven-parameter shifts mix units and signs of
 * rotation, so a datum that is not here is refused.
 */
const SHIFTS: Record<string, string> = {
  "OSTN15_NTv2_OSGBtoETRS.gsb": "446.448,-125.157,542.06,0.15,0.247,0.842,-20.489",
  "BETA2007.gsb": "598.1,73.7,418.2,0.202,0.045,-2.455,6.7",
  "565.4171,50.3319,465.5524,1.9342,-1.6677,9.1019,4.0725":
    "565.4171,50.3319,465.5524,-0.398957,0.343988,-1.877402,4.0725",
  "577.326,90.129,463.919,5.137,1.474,5.297,2.4232": "577.326,90.129,463.919,5.137,1.474,5.297,2.4232",
};
const requireFile = createRequire(import.meta.url);

/**
 * The definition of an EPSG code from the table that ships, with a shift in place of a grid where one is published. Throws
 * RasterError for a code that is not in it, or whose datum cannot be brought to WGS 84.
 */
function definitionFor(code: number): string {
  let definition: string | null;
  try {
    ({ proj4: definition } = requireFile(`epsg-index/s/${code}.json`) as { proj4: string | null });
  } catch {
    definition = null;
  }
  if (!definition)
    throw new RasterError(`the coordinate system EPSG:${code} is not known here; one of the EPSG list was expected`, {
      todo: REPROJECT,
    });
  const grid = /\+nadgrids=(\S+)/.exec(definition)?.[1];
  const shift = /\+towgs84=(\S+)/.exec(definition)?.[1];
  const turned = shift
    ?.split(",")
    .slice(3)
    .some((value) => Number(value) !== 0)
    ? shift
    : undefined;
  const given = grid === "@null" ? undefined : (grid ?? turned);
  if (given) {
    const known = SHIFTS[given];
    if (!known)
      throw new RasterError(`the datum of EPSG:${code} cannot be brought to WGS 84 here`, { todo: REPROJECT });
    return definition.replace(/\+(nadgrids|towgs84)=\S+/, `+towgs84=${known}`);
  }
  if (!shift && !/\+datum=|\+nadgrids=@null|\+ellps=(GRS80|WGS84)/.test(definition))
    throw new RasterError(`the datum of EPSG:${code} cannot be brought to WGS 84 here`, { todo: REPROJECT });
  return definition;
}

const REPROJECT = "Reproject the file to EPSG:4326 or a UTM zone and bring it again.";

/** The system of an EPSG code. Throws RasterError for one that is not known here. */
export function crsOf(code: number): Crs {
  const name = `EPSG:${code}`;
  if (!proj4.defs(name)) proj4.defs(name, definitionFor(code));
  return crsNamed(name, name, code === 4326 || code === 4258 || code === 4269);
}

/** The system of a proj4 definition. Throws RasterError for one that makes no sense. */
export function crsFromDefinition(definition: string, name: string): Crs {
  try {
    return crsNamed(definition, name, false);
  } catch (error) {
    throw new RasterError(
      `the coordinate system "${definition.slice(0, 120)}" cannot be used: its definition is none that is known here`,
      { todo: "Name one by its EPSG number.", cause: error },
    );
  }
}

function crsNamed(system: string, name: string, isSame: boolean): Crs {
  const transform = proj4(system, "WGS84");
  const known = proj4.defs(system) as { projName?: string } | undefined;
  const isGeographic = known ? known.projName === "longlat" : system.includes("+proj=longlat");
  const same = isGeographic && isSame;
  return {
    name,
    isGeographic,
    toLonLat: same ? (at) => at : (at) => transform.forward(at) as [number, number],
    fromLonLat: same ? (at) => at : (at) => transform.inverse(at) as [number, number],
  };
}
