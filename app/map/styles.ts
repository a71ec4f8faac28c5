import { LineString, Point } from "ol/geom";
import { Fill, Icon, RegularShape, Stroke, Style, Text } from "ol/style";
import { MAST_PATH, PROOF_WORDS, STATE_LINES, TILE_PATH } from "../ui";
import { gradeOf, heatMarkSvg } from "./heatMarks";
import type { HeatMark, MapLink } from "./types";

export interface Palette {
  ink: string;
  panel: string;
  clay: string;
  quiet: string;
  /** Resolves a CSS variable used in a shared definition. */
  resolve(colour: string): string;
}

/** A canvas knows no CSS variables: their values are read once when the map is made. */
export function paletteOf(root: HTMLElement): Palette {
  const computed = getComputedStyle(root);
  const resolve = (colour: string) =>
    colour.replace(/var\((--[\w-]+)\)/, (_, name: string) => computed.getPropertyValue(name).trim());
  return {
    ink: resolve("var(--ink)"),
    panel: resolve("var(--panel)"),
    clay: resolve("var(--clay)"),
    quiet: resolve("var(--quiet)"),
    resolve,
  };
}

const svg = (size: number, body: string) =>
  `data:image/svg+xml;utf8,${encodeURIComponent(`<svg xmlns="http://www.w3.org/2000/svg" width="${size}" height="${size}" viewBox="${-size / 2} ${-size / 2} ${size} ${size}">${body}</svg>`)}`;

const cache = new Map<string, Style[]>();
function cached(key: string, make: () => Style[]): Style[] {
  const known = cache.get(key) ?? make();
  cache.set(key, known);
  return known;
}

export function siteStyle(name: string, selected: boolean, { ink, panel, clay }: Palette): Style[] {
  return cached(`site ${name} ${selected} ${ink}`, () => [
    new Style({
      zIndex: 10,
      image: new Icon({
        src: svg(
          30,
          `<path d="${MAST_PATH}" fill="none" stroke="${panel}" stroke-width="5"/><path d="${MAST_PATH}" fill="none" stroke="${selected ? clay : ink}" stroke-width="2"/>`,
        ),
      }),
      text: new Text({
        text: name,
        offsetY: 17,
        font: `${selected ? "600 " : ""}12px 'Atkinson Hyperlegible Next Variable', sans-serif`,
        fill: new Fill({ color: selected ? clay : ink }),
        stroke: new Stroke({ color: panel, width: 3 }),
      }),
    }),
  ]);
}

export function subscriberStyle(linked: boolean, selected: boolean, { ink, panel, clay }: Palette): Style[] {
  const stroke = selected ? clay : ink;
  const fill = selected ? clay : linked ? ink : panel;
  return cached(`sub ${linked} ${selected} ${ink}`, () => [
    new Style({
      zIndex: selected ? 9 : 5,
      image: new Icon({
        src: svg(
          16,
          `<path d="${TILE_PATH}" fill="${fill}" stroke="${panel}" stroke-width="3"/><path d="${TILE_PATH}" fill="${fill}" stroke="${stroke}" stroke-width="1.5"/>`,
        ),
      }),
    }),
  ]);
}

/** A transmitter of somebody else: a hollow lozenge, with a stroke to where it looks; unlike anything of the plan's own. */
export function outsiderStyle(name: string, azimuthDeg: number | null, { ink, panel, quiet }: Palette): Style[] {
  const mark = `<path d="M0-5 5 0 0 5-5 0Z" fill="${panel}" stroke="${ink}" stroke-width="1.4"/><circle r="1.4" fill="${ink}"/>`;
  const look =
    azimuthDeg === null
      ? ""
      : `<path d="M0-6V-15" transform="rotate(${azimuthDeg})" stroke="${ink}" stroke-width="1.6"/>`;
  return cached(`outsider ${name} ${azimuthDeg} ${ink}`, () => [
    new Style({
      zIndex: 4,
      image: new Icon({ src: svg(32, look + mark) }),
      text: new Text({
        text: name,
        offsetY: 14,
        font: "italic 11px 'Atkinson Hyperlegible Next Variable', sans-serif",
        fill: new Fill({ color: quiet }),
        stroke: new Stroke({ color: panel, width: 3 }),
      }),
    }),
  ]);
}

/** Customers drawn together: their number on a plate, and under it how many of them are not linked yet. */
export function crowdStyle(count: number, unlinked: number, { ink, panel }: Palette): Style[] {
  return cached(`crowd ${count} ${unlinked} ${ink}`, () => [
    new Style({
      zIndex: 6,
      text: new Text({
        text: unlinked > 0 ? `${count}\n${unlinked} open` : String(count),
        font: "600 11px 'Atkinson Hyperlegible Mono Variable', monospace",
        fill: new Fill({ color: ink }),
        backgroundFill: new Fill({ color: panel }),
        backgroundStroke: new Stroke({ color: ink, width: unlinked > 0 ? 1 : 2, lineDash: unlinked > 0 ? [3, 2] : [] }),
        padding: [2, 3, 1, 4],
      }),
    }),
  ]);
}

/** A link as its state's line pattern, with the gap of a blocked one and the mark of its proof. */
export function linkStyles(link: MapLink, line: LineString, selected: boolean, palette: Palette): Style[] {
  const { dash, colour } = STATE_LINES[link.state];
  const width = selected ? 3.4 : 1.8;
  const parts: [number, number][] =
    link.cutShare === null
      ? [[0, 1]]
      : [
          [0, Math.max(0, link.cutShare - 0.04)],
          [Math.min(1, link.cutShare + 0.04), 1],
        ];
  const styles: Style[] = [];
  if (selected) styles.push(new Style({ zIndex: 1, stroke: new Stroke({ color: palette.panel, width: 8 }) }));
  for (const [from, to] of parts) {
    styles.push(
      new Style({
        zIndex: 2,
        geometry: new LineString([line.getCoordinateAt(from), line.getCoordinateAt(to)]),
        stroke: new Stroke({
          color: palette.resolve(colour),
          width,
          lineDash: dash,
          lineCap: link.state === "blocked" ? "round" : "butt",
        }),
      }),
    );
  }
  if (link.proof !== "planned" || link.inHand) {
    const { glyph } = PROOF_WORDS[link.proof];
    styles.push(
      new Style({
        zIndex: 8,
        geometry: new Point(line.getCoordinateAt(0.5)),
        image: new RegularShape({
          points: 40,
          radius: 8,
          fill: new Fill({ color: palette.panel }),
          stroke: new Stroke({ color: palette.resolve(colour), width: 1.5 }),
        }),
        text: new Text({
          text: link.inHand ? "✎" : glyph,
          font: "600 11px sans-serif",
          fill: new Fill({ color: palette.ink }),
        }),
      }),
    );
  }
  return styles;
}

export function cursorStyle({ clay, panel }: Palette): Style {
  return new Style({
    image: new RegularShape({
      points: 40,
      radius: 6,
      fill: new Fill({ color: clay }),
      stroke: new Stroke({ color: panel, width: 2 }),
    }),
  });
}

const RING_DASHES = { clear: "", tight: "7 4", blocked: "1.5 4", unknown: "1 8" };

/** How a path would be from a place: its grade's mark, or around a place on the plan a ring in the pattern of its state. */
export function heatStyle(mark: HeatMark, { panel, resolve }: Palette): Style[] {
  const colour = resolve(STATE_LINES[mark.state].colour);
  const grade = gradeOf(mark);
  const body = mark.isAround
    ? `<circle r="11" fill="none" stroke="${panel}" stroke-width="4" opacity="0.7"/><circle r="11" fill="none" stroke="${colour}" stroke-width="2.2" stroke-dasharray="${RING_DASHES[mark.state]}"/>`
    : heatMarkSvg(grade, resolve);
  return cached(`heat ${mark.isAround ? mark.state : grade} ${mark.isAround} ${colour}`, () => [
    new Style({ zIndex: 2, image: new Icon({ src: svg(28, body) }) }),
  ]);
}

/** Outlines of cover: woods hatched in their own green, buildings filled; the selected one edged in clay. */
export function areaStyle(kind: string, selected: boolean, { clay, resolve }: Palette): Style {
  const fill = kind === "building" ? "--cover-building" : kind === "windbreak" ? "--cover-windbreak" : "--cover-wood";
  const colour =
    kind === "water" ? resolve("var(--clear)") : kind === "open" ? resolve("var(--earth)") : resolve(`var(${fill})`);
  return new Style({
    zIndex: selected ? 1 : 0,
    fill: new Fill({ color: `${colour}b0` }),
    stroke: new Stroke({ color: selected ? clay : resolve("var(--quiet)"), width: selected ? 2.5 : 1 }),
  });
}

/** The user's own lines and areas: thin ink with dots, unlike any link or contour. */
export function overlayStyle(name: string | undefined, { ink, panel }: Palette): Style {
  return new Style({
    stroke: new Stroke({ color: ink, width: 1.4, lineDash: [1, 4], lineCap: "round" }),
    fill: new Fill({ color: `${ink}0d` }),
    image: new RegularShape({
      points: 4,
      radius: 4,
      fill: new Fill({ color: panel }),
      stroke: new Stroke({ color: ink, width: 1.2 }),
    }),
    ...(name
      ? {
          text: new Text({
            text: name,
            font: "11px sans-serif",
            fill: new Fill({ color: ink }),
            stroke: new Stroke({ color: panel, width: 3 }),
          }),
        }
      : {}),
  });
}

/** A square of the density map: one ramp of one colour by how many, and the number itself. */
export function densityStyle(count: number, most: number, { ink, panel, resolve }: Palette): Style {
  // Counts differ by hundreds between a town and a farm: the ramp runs with their logarithm.
  const strength = Math.log1p(count) / Math.log1p(most);
  const alpha = Math.round(30 + 170 * strength)
    .toString(16)
    .padStart(2, "0");
  return new Style({
    fill: new Fill({ color: `${resolve("var(--clear)")}${alpha}` }),
    stroke: new Stroke({ color: panel, width: 1 }),
    text: new Text({
      text: String(count),
      font: "600 11px sans-serif",
      fill: new Fill({ color: ink }),
      stroke: new Stroke({ color: panel, width: 3 }),
    }),
  });
}

export function drawStyle({ clay, panel }: Palette): Style {
  return new Style({
    fill: new Fill({ color: `${clay}22` }),
    stroke: new Stroke({ color: clay, width: 2, lineDash: [5, 4] }),
    image: new RegularShape({
      points: 40,
      radius: 5,
      fill: new Fill({ color: clay }),
      stroke: new Stroke({ color: panel, width: 2 }),
    }),
  });
}

export function measureStyle({ clay, panel }: Palette): Style[] {
  return [
    new Style({ stroke: new Stroke({ color: panel, width: 5 }) }),
    new Style({ stroke: new Stroke({ color: clay, width: 2, lineDash: [6, 4] }) }),
  ];
}
