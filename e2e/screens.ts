import type { Page } from "@playwright/test";
import { expect } from "./fixtures";

/** Screens of the demo, each by its name and address. */
export const SCREENS = [
  ["survey", "/plans/isla-orvena/survey?sel=subscriber:sub-42"],
  ["site", "/plans/isla-orvena/survey?sel=site:site-ridge"],
  ["paths", "/plans/isla-orvena/paths?sel=link:link-long"],
  ["bands", "/plans/isla-orvena/paths?sel=link:link-town&panel=bands"],
  ["ways out", "/plans/isla-orvena/paths?sel=link:link-sub-44&panel=ways"],
  ["sectors", "/plans/isla-orvena/sectors?sel=radio:ap-school"],
  ["coverage", "/plans/isla-orvena/sectors?view=coverage&sel=radio:ap-school"],
  ["ways to serve", "/plans/isla-orvena/sectors?view=schools&sel=site:site-silo"],
  ["mast", "/plans/isla-orvena/sectors?view=mast&sel=site:site-ridge"],
  ["build", "/plans/isla-orvena/sectors?view=build"],
  ["channels", "/plans/isla-orvena/channels?sel=radio:ap-ridge-e"],
  ["capacity", "/plans/isla-orvena/capacity?sel=radio:ap-tower-s"],
  ["backhaul", "/plans/isla-orvena/capacity?view=backhaul"],
  ["kit", "/plans/isla-orvena/kit?sel=radio:ap-school"],
  ["chains", "/plans/isla-orvena/kit?view=chains"],
  ["sun", "/plans/isla-orvena/kit?view=sun&sel=site:site-ridge"],
  ["addresses", "/plans/isla-orvena/kit?view=addresses"],
  ["bench", "/plans/isla-orvena/staging"],
  ["checklist", "/plans/isla-orvena/staging?view=checklist&sel=radio:cpe-sub-28"],
  ["configuration", "/plans/isla-orvena/staging?view=configuration&sel=radio:cpe-sub-28"],
  ["library", "/plans/isla-orvena/library"],
  ["antenna", "/plans/isla-orvena/library/antennas?id=brisote-arco-5-17-90&id=brisote-ronda-5-13"],
  ["radio", "/plans/isla-orvena/library/radios/brisote-tramo-5"],
  ["radio editor", "/plans/isla-orvena/library/radios/new"],
  ["rules", "/plans/isla-orvena/rules?set=en"],
  ["install", "/plans/isla-orvena/install"],
  ["proof stage", "/plans/isla-orvena/acceptance"],
  ["crew sheet", "/plans/isla-orvena/links/link-medium/sheet"],
  ["reading", "/plans/isla-orvena/links/link-medium/proof"],
  ["import", "/plans/isla-orvena/import"],
  ["settings", "/plans/isla-orvena/settings"],
  ["logbook", "/plans/isla-orvena/logbook"],
  ["terrain import", "/plans/isla-orvena/import?what=terrain"],
  ["outlines", "/plans/isla-orvena/import?what=shapes"],
  ["export", "/plans/isla-orvena/export"],
  ["register", "/plans/isla-orvena/register"],
  ["noise", "/plans/isla-orvena/noise"],
  ["versions", "/plans/isla-orvena/versions"],
  ["you", "/you"],
  ["home", "/"],
] as const;

/** Goes on to a page as a link does, without loading everything anew, until nothing on it has changed for a while. */
export async function goWithin(page: Page, path: string): Promise<void> {
  await page.evaluate(async (to) => {
    const settled = new Promise<void>((resolve) => {
      let quiet = setTimeout(resolve, 1500);
      const watch = new MutationObserver(() => {
        clearTimeout(quiet);
        quiet = setTimeout(resolve, 400);
      });
      watch.observe(document.body, { childList: true, subtree: true, attributes: true });
      setTimeout(resolve, 15_000);
    });
    history.pushState({}, "", to);
    dispatchEvent(new PopStateEvent("popstate"));
    await settled;
  }, path);
  await expect(page.getByRole("heading", { name: /^(Not here|Something went wrong)$/ })).toHaveCount(0);
}
