import type { PathAnswer } from "#core/link";
import type { Profile } from "#core/terrain";
import { writeSectionCsv } from "#formats/section";
import type { RefObject } from "react";
import { Button } from "../ui";

function download(blob: Blob, name: string): void {
  const url = URL.createObjectURL(blob);
  const anchor = document.createElement("a");
  anchor.href = url;
  anchor.download = name;
  anchor.click();
  URL.revokeObjectURL(url);
}

const STYLED = [
  "fill",
  "stroke",
  "stroke-width",
  "stroke-dasharray",
  "stroke-linecap",
  "opacity",
  "font-family",
  "font-size",
  "font-weight",
  "text-anchor",
  "paint-order",
];

/** The drawing as a file of its own: what the page's styles gave it is written into each part. */
function standalone(svg: SVGSVGElement): string {
  const copy = svg.cloneNode(true) as SVGSVGElement;
  const parts = [...svg.querySelectorAll<SVGElement>("*")];
  [...copy.querySelectorAll<SVGElement>("*")].forEach((element, i) => {
    const computed = getComputedStyle(parts[i]!);
    for (const name of STYLED) element.style.setProperty(name, computed.getPropertyValue(name));
    element.removeAttribute("class");
  });
  copy.removeAttribute("class");
  copy.setAttribute("xmlns", "http://www.w3.org/2000/svg");
  const { width, height } = svg.getBoundingClientRect();
  copy.setAttribute("viewBox", `0 0 ${width} ${height}`);
  const paper = document.createElementNS("http://www.w3.org/2000/svg", "rect");
  paper.setAttribute("width", "100%");
  paper.setAttribute("height", "100%");
  paper.setAttribute("fill", getComputedStyle(document.documentElement).getPropertyValue("--panel").trim());
  copy.prepend(paper);
  return new XMLSerializer().serializeToString(copy);
}

const PNG_SCALE = 2;

async function png(svg: SVGSVGElement): Promise<Blob> {
  const { width, height } = svg.getBoundingClientRect();
  const image = new Image();
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(standalone(svg))}`;
  await image.decode();
  const canvas = document.createElement("canvas");
  canvas.width = width * PNG_SCALE;
  canvas.height = height * PNG_SCALE;
  canvas.getContext("2d")!.drawImage(image, 0, 0, canvas.width, canvas.height);
  return new Promise((resolve, reject) =>
    canvas.toBlob((blob) => (blob ? resolve(blob) : reject(new Error("the picture could not be made"))), "image/png"),
  );
}

/** The section as numbers, as a drawing and as a picture. */
export function SectionExport({
  holder,
  profile,
  path,
  frequencyGHz,
  kFactor,
  name,
}: {
  holder: RefObject<HTMLDivElement | null>;
  profile: Profile;
  path: PathAnswer;
  frequencyGHz: number;
  kFactor: number;
  name: string;
}) {
  const svg = () => holder.current!.querySelector("svg")!;
  const small = "px-1.5 py-0 text-[11px]";
  return (
    <div
      className="absolute right-2 bottom-6 flex gap-1 opacity-70 focus-within:opacity-100 hover:opacity-100"
      role="group"
      aria-label="Export the section"
    >
      <Button
        className={small}
        onClick={() =>
          download(
            new Blob([writeSectionCsv(profile, path, frequencyGHz, kFactor)], { type: "text/csv" }),
            `${name}.csv`,
          )
        }
      >
        CSV
      </Button>
      <Button
        className={small}
        onClick={() => download(new Blob([standalone(svg())], { type: "image/svg+xml" }), `${name}.svg`)}
      >
        SVG
      </Button>
      <Button className={small} onClick={async () => download(await png(svg()), `${name}.png`)}>
        PNG
      </Button>
    </div>
  );
}
