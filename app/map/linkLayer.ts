import Feature from "ol/Feature";
import { LineString } from "ol/geom";
import VectorLayer from "ol/layer/Vector";
import VectorSource from "ol/source/Vector";
import type { Projection } from "./projection";
import { linkStyles, type Palette } from "./styles";
import type { MapLink } from "./types";

/** Whether a link looks as it did: of ten thousand a change draws few anew. */
const isDrawnAlike = (x: MapLink | undefined, y: MapLink): boolean =>
  x !== undefined &&
  x.from.latDeg === y.from.latDeg &&
  x.from.lonDeg === y.from.lonDeg &&
  x.to.latDeg === y.to.latDeg &&
  x.to.lonDeg === y.to.lonDeg &&
  x.state === y.state &&
  x.proof === y.proof &&
  x.cutShare === y.cutShare &&
  x.inHand === y.inHand &&
  x.label === y.label &&
  x.subscriberId === y.subscriberId;

interface Drawn {
  link: MapLink;
  line: LineString;
  feature: Feature;
}

/** The plan's links: what a change leaves as it was is not drawn again. */
export function linkLayer(palette: Palette, { project }: Projection) {
  const source = new VectorSource();
  const lines = new Map<string, Drawn>();
  let drawn: readonly MapLink[] | null = null;
  let chosenId: string | null = null;
  /** Customers who are drawn together: their links would be a thicket, and are drawn where they stand alone. */
  let together: ReadonlySet<string> = new Set();
  const dress = ({ link, line, feature }: Drawn) => {
    const isChosen = link.id === chosenId;
    const isHidden = !isChosen && !link.inHand && link.subscriberId !== null && together.has(link.subscriberId);
    feature.setStyle(isHidden ? [] : linkStyles(link, line, isChosen, palette));
  };
  const drawAnew = (links: readonly MapLink[]) => {
    const gone = new Map(lines);
    const fresh: Feature[] = [];
    for (const link of links) {
      if (isDrawnAlike(lines.get(link.id)?.link, link)) {
        gone.delete(link.id);
        continue;
      }
      const line = new LineString([project(link.from), project(link.to)]);
      const feature = new Feature({ geometry: line, kind: "link", id: link.id, name: link.label });
      const one = { link, line, feature };
      lines.set(link.id, one);
      dress(one);
      fresh.push(feature);
    }
    for (const [id, one] of gone) {
      source.removeFeature(one.feature);
      if (lines.get(id) === one) lines.delete(id);
    }
    source.addFeatures(fresh);
  };
  return {
    layer: new VectorLayer({ source }),
    draw(links: readonly MapLink[], chosen: string | null) {
      const before = chosenId;
      chosenId = chosen;
      if (drawn !== links) drawAnew(links);
      drawn = links;
      if (before === chosenId) return;
      for (const id of [before, chosenId]) {
        const one = lines.get(id ?? "");
        if (one) dress(one);
      }
    },
    /** Told which customers are drawn together now. */
    gathered(now: ReadonlySet<string>) {
      const before = together;
      together = now;
      for (const one of lines.values()) {
        const { subscriberId } = one.link;
        if (subscriberId !== null && before.has(subscriberId) !== now.has(subscriberId)) dress(one);
      }
    },
    /** The line of the chosen link. */
    chosenLine: (): LineString | null => lines.get(chosenId ?? "")?.line ?? null,
  };
}
