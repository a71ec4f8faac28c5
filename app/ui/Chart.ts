import { lazy, type ComponentType } from "react";
import type { Props } from "react-apexcharts";

/** A chart, loaded when one is shown. The package is of the older kind of modules, whose component some loaders hand over one level deeper. */
export const Chart = lazy(async () => {
  const { default: loaded } = (await import("react-apexcharts")) as unknown as {
    default: ComponentType<Props> | { default: ComponentType<Props> };
  };
  return { default: "default" in loaded ? loaded.default : loaded };
});
