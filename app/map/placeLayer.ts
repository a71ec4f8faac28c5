import Feature from "ol/Feature";
import { Point } from "ol/geom";
import VectorLayer from "ol/layer/Vector";
import VectorSource from "ol/source/Vector";
import type Style from "ol/style/Style";
import { crowdLayer } from "./crowd";
import type { Projection } from "./projection";
import { siteStyle, subscriberStyle, type Palette } from "./styles";
import type { MapSite, PlanMapProps } from "./types";

/** Sites, and customers in their crowd: ten thousand are laid out once, and choosing one dresses two of them again. */
export function placeLayer(palette: Palette, { project }: Projection) {
  const thingSource = new VectorSource();
  const glyphs = new Map<string, { feature: Feature<Point>; style: (chosen: boolean) => Style[] }>();
  const crowd = crowdLayer(palette, (member) => glyphs.get(`subscriber ${String(member.get("id"))}`)!.style(false));
  let laidOut: Partial<Pick<PlanMapProps, "sites" | "subscribers">> = {};
  let chosenKey: string | null = null;
  const addPlace = (
    kind: "site" | "subscriber",
    { id, name, place }: MapSite,
    style: (chosen: boolean) => Style[],
    more: object = {},
  ) => {
    const feature = new Feature({ geometry: new Point(project(place)), kind, id, name, ...more });
    feature.setStyle(style(false));
    glyphs.set(`${kind} ${id}`, { feature, style });
  };
  /** Draws the chosen place on top, and a chosen customer alone. */
  const setChosen = (key: string | null, isChosen: boolean) => {
    const glyph = glyphs.get(key ?? "");
    if (!glyph) return;
    glyph.feature.setStyle(glyph.style(isChosen));
    if (glyph.feature.get("kind") !== "subscriber") return;
    crowd.setOut(glyph.feature, isChosen);
    if (isChosen) thingSource.addFeature(glyph.feature);
    else thingSource.removeFeature(glyph.feature);
  };
  const layOut = ({ sites, subscribers }: Pick<PlanMapProps, "sites" | "subscribers">) => {
    laidOut = { sites, subscribers };
    glyphs.clear();
    for (const one of subscribers)
      addPlace("subscriber", one, (on) => subscriberStyle(one.linked, on, palette), { linked: one.linked });
    for (const one of sites) addPlace("site", one, (on) => siteStyle(one.name, on, palette));
    const all = [...glyphs.values()].map(({ feature }) => feature);
    thingSource.clear();
    thingSource.addFeatures(all.filter((feature) => feature.get("kind") === "site"));
    crowd.put(all.filter((feature) => feature.get("kind") === "subscriber"));
    chosenKey = null;
  };
  return {
    crowd,
    layer: new VectorLayer({ source: thingSource, declutter: false }),
    draw({ sites, subscribers, selected }: Pick<PlanMapProps, "sites" | "subscribers" | "selected">) {
      if (laidOut.sites !== sites || laidOut.subscribers !== subscribers) layOut({ sites, subscribers });
      const key = selected ? `${selected.kind} ${selected.id}` : null;
      if (key === chosenKey) return;
      setChosen(chosenKey, false);
      setChosen(key, true);
      chosenKey = key;
    },
    /** Whether a feature is the chosen place. */
    isChosen: (feature: { get: (name: string) => unknown }): boolean =>
      `${String(feature.get("kind"))} ${String(feature.get("id"))}` === chosenKey,
  };
}
