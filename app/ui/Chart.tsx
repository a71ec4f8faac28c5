import { lazy, type ComponentType } from "react";
import type { Props } from "react-apexcharts";
import { withPlainTexts } from "./plainTexts";

/** The package is of the older kind of modules, whose component some loaders hand over one level deeper. */
const Loaded = lazy(async () => {
  const { default: loaded } = (await import("react-apexcharts")) as unknown as {
    default: ComponentType<Props> | { default: ComponentType<Props> };
  };
  return { default: "default" in loaded ? loaded.default : loaded };
});

/** A chart, loaded when one is shown. No text that is handed to it can be markup. */
export function Chart(props: Props) {
  return <Loaded {...withPlainTexts(props)} />;
}
