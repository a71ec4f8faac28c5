// Taken out of the global object once: test runners make each look-up of a global slow.
const { imul, floor } = Math;

/** A small seeded generator (mulberry32): the same numbers on every machine. */
export function seededRandom(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = imul(t ^ (t >>> 15), t | 1);
    t ^= t + imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** Smooth noise in [−1, 1] over the plane, from hashed lattice points. */
export function latticeNoise(seed: number): (x: number, y: number) => number {
  const hash = (ix: number, iy: number) => {
    let h = imul(ix, 374761393) ^ imul(iy, 668265263) ^ imul(seed, 974634777);
    h = imul(h ^ (h >>> 13), 1274126177);
    return ((h ^ (h >>> 16)) >>> 0) / 2147483648 - 1;
  };
  const ease = (t: number) => t * t * t * (t * (t * 6 - 15) + 10);
  return (x, y) => {
    const ix = floor(x);
    const iy = floor(y);
    const u = ease(x - ix);
    const v = ease(y - iy);
    const top = hash(ix, iy) * (1 - u) + hash(ix + 1, iy) * u;
    const bottom = hash(ix, iy + 1) * (1 - u) + hash(ix + 1, iy + 1) * u;
    return top * (1 - v) + bottom * v;
  };
}

/** Several octaves of noise, each half as strong and twice as fine. */
export function fractalNoise(noise: (x: number, y: number) => number, x: number, y: number, octaves: number): number {
  let sum = 0;
  let strength = 0.5;
  for (let octave = 0; octave < octaves; octave++) {
    sum += strength * noise(x, y);
    x = x * 2.03 + 17.1;
    y = y * 2.03 - 9.7;
    strength /= 2;
  }
  return sum;
}
