import type { Place } from "#core/geodesy";
import type { ProfileSource } from "#core/outcome";
import type { World } from "#core/plan";
import type { SearchProgress } from "#core/search";
import { profileScratch, readGround, sampleProfile, type GroundSample, type HeightAt } from "#core/terrain";
import type { Ground } from "#ground";

/** One part of a question that several workers answer together. */
export interface Part {
  index: number;
  of: number;
}

/** What a task works on. */
export interface Bench {
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

/** Heights of the ground, one place at a time. */
export function heightOver(ground: Ground): HeightAt {
  const sample: GroundSample = { groundAmslM: NaN, coverHeightM: 0, coverCode: 0 };
  return ({ latDeg, lonDeg }: Place) => {
    ground.read((terrain) => readGround(terrain, latDeg, lonDeg, sample));
    return sample.groundAmslM;
  };
}
