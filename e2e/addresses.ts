import type { RouteConfigEntry } from "@react-router/dev/routes";
import routes from "../app/routes";

const flat = (entries: readonly RouteConfigEntry[], before = ""): string[] =>
  entries.flatMap(({ path, index, children }) => {
    const here = path ? `${before}/${path}` : before || "/";
    return [...(path || index ? [here] : []), ...(children ? flat(children, here === "/" ? "" : here) : [])];
  });

/** Every address of the route table, by its pattern. */
export const PATTERNS: readonly string[] = [...new Set(flat(await routes))];

const SAMPLES: Record<string, string> = {
  ...{
    planId: "isla-orvena",
    linkId: "link-sub-12",
    visitId: "job-crew",
    z: "8",
    x: "1",
    y: "1",
    file: "bill.csv",
    token: "none",
  },
  ...{ searchId: "none", jobId: "none", name: "none", fileId: "none", photoId: "none", radioId: "brisote-vela-5" },
  "stage?": "survey",
};

/** An address of a pattern, with what stands in the demo. */
export const addressOf = (pattern: string, samples: Record<string, string> = {}): string =>
  pattern.replace(/:([\w]+\??)/g, (_, name: string) => samples[name] ?? SAMPLES[name]!);
