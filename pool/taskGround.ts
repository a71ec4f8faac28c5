import { inverseGeodesic, type Place } from "#core/geodesy";
import type { ProfileSource } from "#core/outcome";
import type { World } from "#core/plan";
import type { SearchProgress } from "#core/search";
import {
  profileScratch,
  readGround,
  sampleProfile,
  stepBetweenM,
  type GroundSample,
  type HeightAt,
} from "#core/terrain";
import type { Ground } from "#ground";

/** One part of a question that several workers answer together. */
export interface Part {
  index: number;
  of: number;
}

/** What a task works on. */
export interface TaskGround {
  world: World;
  ground: Ground;
  between: ProfileSource;
  progress: (now: SearchProgress) => void;
  /** Hands over something that was found on the way; none is left out. */
  found: (something: unknown) => void;
}

/** Profiles for one look after another: each is written over the last. */
export function glances(ground: Ground): ProfileSource {
  const scratch = profileScratch();
  return (from, to, line) => ground.read((terrain) => sampleProfile(terrain, from, to, undefined, scratch, line));
}

/** Samples of a path to a transmitter that only disturbs: enough for what stands between, at a fraction of the cost. */
const COARSE_SAMPLES = 96;

/** The same with samples farther apart on long paths. */
export function coarseGlances(ground: Ground): ProfileSource {
  const scratch = profileScratch();
  return (from, to, known) => {
    const line = known ?? inverseGeodesic(from, to);
    return ground.read((terrain) => {
      const stepM = Math.max(stepBetweenM(terrain, from, to), line.distanceM / COARSE_SAMPLES);
      return sampleProfile(terrain, from, to, stepM, scratch, line);
    });
  };
}

/** Heights of the ground, one place at a time. */
export function heightOver(ground: Ground): HeightAt {
  const sample: GroundSample = { groundAmslM: NaN, coverHeightM: 0, coverCode: 0 };
  return ({ latDeg, lonDeg }: Place) => {
    ground.read((terrain) => readGround(terrain, latDeg, lonDeg, sample));
    return sample.groundAmslM;
  };
}
