import TileLayer from "ol/layer/Tile";
import XYZ from "ol/source/XYZ";

/** A layer of the user's own tile server, over the relief and under everything else. It asks the network. */
export function userTiles({ url, attribution }: { url: string; attribution: string }): TileLayer {
  return new TileLayer({ source: new XYZ({ url, attributions: asText(attribution), maxZoom: 19 }), opacity: 0.85 });
}

/** What a server wants named, as text: the map would take it for HTML. */
const asText = (attribution: string): string => attribution.replace(/[&<>"']/g, (sign) => `&#${sign.charCodeAt(0)};`);
