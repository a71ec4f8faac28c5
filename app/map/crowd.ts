import type Feature from "ol/Feature";
import type { FeatureLike } from "ol/Feature";
import { boundingExtent, type Extent } from "ol/extent";
import type { Point } from "ol/geom";
import VectorLayer from "ol/layer/Vector";
import Cluster from "ol/source/Cluster";
import VectorSource from "ol/source/Vector";
import type Style from "ol/style/Style";
import { crowdStyle, type Palette } from "./styles";

/** From so many customers on, those whose glyphs would lie on each other are drawn as one plate with their number. */
const CROWD_FROM = 300;
/** Glyphs closer than this lie on each other, px. */
const APART_PX = 26;

const membersOf = (feature: FeatureLike): Feature[] => (feature.get("features") as Feature[] | undefined) ?? [];

/** Customers drawn one by one where there is room for them, else together. */
export function crowdLayer(palette: Palette, glyphOf: (member: Feature) => Style[]) {
  const source = new VectorSource<Feature<Point>>();
  const cluster = new Cluster({ source, distance: 0 });
  const layer = new VectorLayer({
    source: cluster,
    style: (feature) => {
      const members = membersOf(feature);
      if (members.length === 1) return glyphOf(members[0]!);
      const unlinked = members.filter((member) => !member.get("linked")).length;
      return crowdStyle(members.length, unlinked, palette);
    },
  });
  return {
    layer,
    /** Lays all of them out anew. */
    put(features: readonly Feature<Point>[]): void {
      cluster.setDistance(features.length >= CROWD_FROM ? APART_PX : 0);
      source.clear(true);
      source.addFeatures([...features]);
    },
    /** Takes one out, or puts it back: whoever is chosen stands alone. */
    setOut(feature: Feature<Point>, isOut: boolean): void {
      if (isOut) source.removeFeature(feature);
      else source.addFeature(feature);
    },
    /** The customer that a drawn feature stands for; the feature itself where it stands for nobody's. */
    single: (feature: FeatureLike): FeatureLike => {
      const members = membersOf(feature);
      return members.length === 1 ? members[0]! : feature;
    },
    /** The bounds of those whom a drawn feature stands for together; null for any other. */
    extentOf: (feature: FeatureLike): Extent | null => {
      const members = membersOf(feature);
      if (members.length < 2) return null;
      return boundingExtent(members.map((member) => (member.getGeometry() as Point).getCoordinates()));
    },
    /** Calls `moved` with the ids of all who are drawn together, whenever that changes. */
    onGathered(moved: (together: ReadonlySet<string>) => void): void {
      cluster.on("change", () => {
        const together = new Set<string>();
        for (const feature of cluster.getFeatures()) {
          const members = membersOf(feature);
          if (members.length > 1) for (const member of members) together.add(member.get("id") as string);
        }
        moved(together);
      });
    },
  };
}
