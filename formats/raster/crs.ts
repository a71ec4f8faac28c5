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
/**
 * Shifts of the table that lie more than 12 m off gdal's own transformation somewhere in their datum's area: what is in such a datum
 * is refused rather than put beside its place.
 */
const DOUBTFUL = new Set([
  "230,-199,-752",
  "-125,53,467",
  "-50.9,-347.6,-231",
  "-151.99,287.04,-147.45",
  "-241.54,-163.64,396.06",
  "-106,-129,165",
  "-153.33,-169.41,86.39",
  "214,804,268",
  "-134,229,-29",
  "-17.51,-108.32,-62.39",
  "15.8,-154.4,-82.3",
  "-288,175,-376",
  "-255,-29,-105",
  "-56.1,-167.8,13.1",
  "-104.4,-136.6,201.2",
  "-80,-100,-228",
  "-2.227,6.524,2.178",
  "31,146,47",
  "198,881,317",
  "-143,-90,-294",
  "-136,-108,-292",
]);
/** Shifts that hold in a part of their datum's area alone, by its southern edge, degrees north: ED50 is another one beyond the Mediterranean. */
const HOLDS_NORTH_OF: Record<string, number> = { "-87,-98,-121": 34 };
/** Systems on a modern ellipsoid that are none of its datums. */
const OFF_CODES = [6989, 6990];

const requireFile = createRequire(import.meta.url);

interface Definition {
  proj4: string;
  /** Latitude south of which its shift does not hold, degrees. */
  northOfDeg: number | null;
}

/**
 * The definition of an EPSG code from the table that ships, with a shift in place of a grid where one is published. Throws
 * RasterError for a code that is not in it, or whose datum, unit or axes cannot be brought to WGS 84.
 */
function definitionFor(code: number): Definition {
  let entry: { proj4: string | null; unit: string | null };
  try {
    entry = requireFile(`epsg-index/s/${code}.json`) as typeof entry;
  } catch {
    entry = { proj4: null, unit: null };
  }
  const { proj4: definition, unit } = entry;
  const refuse = (why: string) => new RasterError(why, { todo: REPROJECT });
  if (!definition)
    throw refuse(`the coordinate system EPSG:${code} is not known here; one of the EPSG list was expected`);
  if (definition.includes("+proj=geocent"))
    throw refuse(`EPSG:${code} counts from the middle of the Earth, where no raster lies`);
  if (/\bgrad\b/i.test(unit ?? "")) throw refuse(`EPSG:${code} counts in grads, which are not read here`);
  if (definition.includes("+axis=")) throw refuse(`EPSG:${code} counts to the west or south, which is not read here`);
  const unknown = refuse(`the datum of EPSG:${code} cannot be brought to WGS 84 here`);
  const grid = /\+nadgrids=(\S+)/.exec(definition)?.[1];
  const shift = /\+towgs84=(\S+)/.exec(definition)?.[1];
  const numbers = shift?.split(",").map(Number);
  const isTurned = numbers?.slice(3).some((value) => value !== 0) ?? false;
  const given = grid === "@null" ? undefined : (grid ?? (isTurned ? shift : undefined));
  if (given) {
    const known = SHIFTS[given];
    if (!known) throw unknown;
    return { proj4: definition.replace(/\+(nadgrids|towgs84)=\S+/, `+towgs84=${known}`), northOfDeg: null };
  }
  const moved = numbers?.slice(0, 3).join() ?? "";
  // No shift at all is one only between ellipsoids that are the same.
  const isModern = /\+datum=(WGS84|NAD83)|\+nadgrids=@null|\+ellps=(GRS80|WGS84)/.test(definition);
  const isMoved = numbers?.some((value) => value !== 0) ?? false;
  if (!(isMoved || isModern) || DOUBTFUL.has(moved) || OFF_CODES.includes(code)) throw unknown;
  return { proj4: definition, northOfDeg: HOLDS_NORTH_OF[moved] ?? null };
}

const REPROJECT = "Reproject the file to EPSG:4326 or a UTM zone and bring it again.";

/** Southern edges of the systems that were looked up, by name. */
const southernEdges = new Map<string, number | null>();

/** The system of an EPSG code. Throws RasterError for one that is not known here. */
export function crsOf(code: number): Crs {
  const name = `EPSG:${code}`;
  if (!proj4.defs(name)) {
    const { proj4: definition, northOfDeg } = definitionFor(code);
    proj4.defs(name, definition);
    southernEdges.set(name, northOfDeg);
  }
  let crs: Crs;
  try {
    crs = crsNamed(name, name, code === 4326 || code === 4258 || code === 4269);
  } catch (error) {
    throw new RasterError(`the projection of EPSG:${code} is not known here`, { todo: REPROJECT, cause: error });
  }
  return withinArea(crs, southernEdges.get(name) ?? null);
}

/** The same system, refused south of where its shift holds. */
function withinArea(crs: Crs, northOfDeg: number | null): Crs {
  if (northOfDeg === null) return crs;
  return {
    ...crs,
    toLonLat: (at) => {
      const place = crs.toLonLat(at);
      if (place[1] < northOfDeg)
        throw new RasterError(`the datum of ${crs.name} cannot be brought to WGS 84 south of ${northOfDeg}° here`, {
          todo: REPROJECT,
        });
      return place;
    },
  };
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
