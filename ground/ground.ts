import { areaIndex, layTile, terrainOf, UnreadGround, type Surface, type Terrain } from "#core/terrain";
import { decodeTile } from "./tileCodec";
import { emptied, startOf, type SharedGround, type SharedSurface } from "./shared";

/** A plan's ground as one thread reads it. */
export interface Ground {
  /** Reads something off the ground, unpacking what that takes. `work` may be begun several times. */
  read<T>(work: (terrain: Terrain) => T): T;
  /** The frames of its rasters, for whoever does not read their cells. */
  readonly terrain: Terrain;
}

/** The ground that shared rasters make. What one thread unpacks all of them have. */
export function groundOver({ rasters, areas }: SharedGround): Ground {
  const held = rasters.map((raster) => ({ ...raster }));
  const index = areaIndex(areas);
  const terrainNow = () =>
    terrainOf(
      held.map(({ kind, whole, overview }) => ({
        kind,
        surface: overview ? { ...whole.surface, overview: overview.surface } : whole.surface,
      })),
      index,
    );
  let terrain = terrainNow();
  /** Unpacks a block of one of its own surfaces; false for any other. */
  const unpack = (surface: Surface, block: number): boolean => {
    for (const raster of held)
      for (const part of ["whole", "overview"] as const) {
        const known = raster[part];
        if (known?.surface.starts !== surface.starts) continue;
        if (lay(known, block)) return true;
        // No slot is left. Others may be reading what is unpacked: this thread begins with arrays of its own.
        raster[part] = emptied(known, surface.frame);
        lay(raster[part], block);
        terrain = terrainNow();
        return true;
      }
    return false;
  };
  return {
    get terrain() {
      return terrain;
    },
    read: (work) => {
      for (;;)
        try {
          return work(terrain);
        } catch (error) {
          if (!(error instanceof UnreadGround) || !unpack(error.surface, error.block)) throw error;
        }
    },
  };
}

/** Unpacks one tile; false where no slot is left for it. Two threads may unpack the same one, into a slot each. */
function lay({ surface, packed, ends, taken }: SharedSurface, block: number): boolean {
  const slots = surface.coverCode!.length / (surface.blockColumns * surface.blockRows);
  const slot = Atomics.add(taken, 0, 1);
  if (slot >= slots) {
    Atomics.store(taken, 0, slots);
    return false;
  }
  // Packages that unpack want memory of their own.
  layTile(surface, block, slot, decodeTile(packed.slice(startOf(ends, block), ends[block])));
  return true;
}
