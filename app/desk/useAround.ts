import { accessLinksAt, sectorCustomer, type SectorCustomer, type SiteAround } from "#core/sectors";
import { useMemo } from "react";
import { useDesk } from "./DeskContext";
import { useAnswer } from "../ask/useAnswer";

/** A site as its sectors see it, with the change in hand; null until it is here. */
export interface Around {
  around: SiteAround | null;
  /** Customers by their link, those that the change in hand reaches by their answer in hand. */
  customers: ReadonlyMap<string, SectorCustomer>;
  failed: string | null;
}

const NOBODY: ReadonlyMap<string, SectorCustomer> = new Map();

/** Asks the server about a site, again after each change that is kept; what is worked out of the change in hand is laid over it. */
export function useAround(siteId: string | null): Around {
  const { data, rested, answers, draft } = useDesk();
  const planId = data.world.plan.id;
  const { revision, unsettled } = data;
  const { answer: around, failed } = useAnswer<SiteAround>(
    siteId === null || data.shown === null
      ? null
      : {
          address: `/plans/${encodeURIComponent(planId)}/around?site=${encodeURIComponent(siteId)}`,
          of: [revision, unsettled],
        },
  );
  const inHand = draft.patches.length > 0;
  const customers = useMemo(() => {
    if (!around || siteId === null) return NOBODY;
    const all = new Map(around.customers.map((one) => [one.linkId, one]));
    if (!inHand) return all;
    const links = accessLinksAt(rested, siteId);
    const here = new Set(links.map(({ id }) => id));
    for (const id of all.keys()) if (!here.has(id)) all.delete(id);
    for (const link of links) {
      const answer = answers.get(link.id);
      const customer = answer && sectorCustomer(rested, link, answer);
      if (customer) all.set(link.id, customer);
    }
    return all;
  }, [around, siteId, inHand, rested, answers]);
  return { around, customers, failed };
}
