const { imul, sqrt, log, cos, PI, floor } = Math;

/** A whole number in [0, 2³²) that depends on two others alone. */
function hash(seed: number, at: number): number {
  let h = imul(seed ^ 0x9e3779b9, 0x85ebca6b) ^ imul(at + 0x7f4a7c15, 0xc2b2ae35);
  h = imul(h ^ (h >>> 15), 0x2c1b3c6d);
  h = imul(h ^ (h >>> 12), 0x297a2d39);
  return (h ^ (h >>> 15)) >>> 0;
}

/** The seed of a thing by its name, under the seed of a world. */
export function seedOf(seed: number, name: string): number {
  let h = seed >>> 0;
  for (let i = 0; i < name.length; i++) h = imul(h ^ name.charCodeAt(i), 16777619) >>> 0;
  return h;
}

/** Evenly spread in [0, 1): the same for the same seed and moment, whatever was asked before. */
export const uniformAt = (seed: number, at: number): number => hash(seed, at) / 4294967296;

/** Normal, of mean 0 and deviation 1, likewise. */
export const normalAt = (seed: number, at: number): number =>
  sqrt(-2 * log(1 - uniformAt(seed, 2 * at))) * cos(2 * PI * uniformAt(seed, 2 * at + 1));

/** Normal, but moving slowly: about a new value every `period`. */
export function slowAt(seed: number, at: number, period: number): number {
  const step = floor(at / period);
  const share = at / period - step;
  const ease = share * share * (3 - 2 * share);
  return normalAt(seed, step) * (1 - ease) + normalAt(seed, step + 1) * ease;
}
