import TileLayer from "ol/layer/Tile";
import XYZ from "ol/source/XYZ";

/** A layer of the user's own tile server, over the relief and under everything else. It asks the network. */
export function userTiles({ url, attribution }: { url: string; attribution: string }): TileLayer {
  return new TileLayer({ source: new XYZ({ url, attributions: attribution, maxZoom: 19 }), opacity: 0.85 });
}
