import { inverseGeodesic } from "#core/geodesy";
import { answerLink } from "#core/link";
import { linkEnds, worldOf } from "#core/plan";
import { plainTerrain, profileScratch, sampleProfile } from "#core/terrain";
import { largeSibling } from "#demo";
const REACH_KM = 12;
const { rows, surface } = largeSibling(167);
const world = worldOf(rows);
const terrain = plainTerrain(surface);
const scratch = profileScratch();
const links = [...world.links.values()].filter(({ kind }) => kind === "access");
const ends = links.map((link) => ({ link, ...linkEnds(world, link) }));
const sites = [...world.sites.values()];
let count = 0,
  done = 0,
  samples = 0;
const start = performance.now();
while (performance.now() - start < 6000)
  for (let i = 0; i < 200; i++) {
    const { link, a, b } = ends[(count * 37) % ends.length]!;
    const site = sites[count++ % sites.length]!;
    if (inverseGeodesic(site, b.place).distanceM > REACH_KM * 1000) continue;
    done++;
    const { kind, foliageDepthM } = link;
    const profile = sampleProfile(terrain, site, b.place, undefined, scratch);
    samples += profile.distancesKm.length;
    answerLink({ plan: world.plan, kind, foliageDepthM, a: { ...a, place: site }, b, profile });
  }
const s = (performance.now() - start) / 1000;
console.log(count / s, done / s, samples / done, surface.frame.columns, surface.frame.rows);
