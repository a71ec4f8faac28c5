import { join } from "node:path";
import { Font } from "@react-pdf/renderer";

const fontFile = (family: string, weight: number) =>
  join(process.cwd(), "node_modules", "@fontsource", family, "files", `${family}-latin-${weight}-normal.woff`);

/** Gives printed pages the letters of the screen: "Next" for text, "Figures" for figures. */
export function registerFonts(): void {
  for (const weight of [400, 700])
    Font.register({ family: "Next", src: fontFile("atkinson-hyperlegible-next", weight), fontWeight: weight });
  Font.register({ family: "Figures", src: fontFile("atkinson-hyperlegible-mono", 700), fontWeight: 700 });
  Font.registerHyphenationCallback((word) => [word]);
}
