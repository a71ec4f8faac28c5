import { proposeBridge, proposeSector } from "#core/propose";
import type { Place } from "#core/geodesy";
import { freeName, newSite, newSubscriber, putPatch, type Patch, type Site } from "#core/plan";
import { createContext, useCallback, useContext, useEffect, useMemo, useState, type ReactNode } from "react";
import { useLocation, useNavigate } from "react-router";
import { toast } from "sonner";
import { useDesk } from "../desk/DeskContext";
import type { Selection } from "../desk/selection";
import { useAddress } from "../ui";
import { ADDABLE, type Addable } from "./addable";

/** What is being put, and of a bridge the site that it begins at, once that is chosen. */
interface Adding {
  kind: Addable;
  fromSiteId: string | null;
}

interface AddingApi {
  adding: Adding | null;
  /** Whether the menu of what can be put is open, and how to open it from elsewhere. */
  isMenuOpen: boolean;
  setMenuOpen: (open: boolean) => void;
  /** Begins to put something; with a site, a sector stands there at once and a bridge begins there. */
  start: (kind: Addable, siteId?: string) => void;
  stop: () => void;
  /** Puts a site or a customer at a place. */
  putAt: (kind: "site" | "subscriber", place: Place) => void;
  /** Takes a site: the sector goes there, or the bridge begins or ends there. */
  takeSite: (siteId: string) => void;
}

const AddingReact = createContext<AddingApi | null>(null);

export function useAdding(): AddingApi {
  const api = useContext(AddingReact);
  if (!api) throw new Error("useAdding stands outside its provider");
  return api;
}

/** Azimuth at which a sector begins that has nobody to look at yet. */
const FIRST_AZIMUTH_DEG = 0;

/** Puts things on the plan: each is a change in hand like any other, and stands chosen at once. */
export function AddingProvider({ children }: { children: ReactNode }) {
  const { world, draft, select } = useDesk();
  const [adding, setAdding] = useState<Adding | null>(null);
  const [isMenuOpen, setMenuOpen] = useState(false);
  const { pathname } = useLocation();
  const navigate = useNavigate();
  const [params, setParams] = useAddress();
  const planId = world.plan.id;

  // "Add site…" of another page's search leads here.
  const asked = params.get("add");
  useEffect(() => {
    if (!asked) return;
    const known = ADDABLE.find(({ word }) => word === asked);
    if (known) setAdding({ kind: known.kind, fromSiteId: null });
    setParams((params) => params.delete("add"), { replace: true });
  }, [asked, setParams]);

  const { put: putInHand } = draft;
  const put = useCallback(
    (patches: readonly Patch[], chosen: NonNullable<Selection>) => {
      putInHand(patches);
      setAdding(null);
      select(chosen);
    },
    [putInHand, select],
  );
  const api = useMemo((): AddingApi => {
    const id = () => crypto.randomUUID();
    const putSector = (site: Site) => {
      const name = freeName(world.radios.values(), `${site.name} sector`);
      const patches = proposeSector(world, site, name, FIRST_AZIMUTH_DEG, id);
      const radio = patches?.find(({ kind }) => kind === "radios");
      if (!patches || !radio) return void toast.error("The library has no kit for a sector.");
      put(patches, { kind: "radio", id: radio.id });
    };
    return {
      adding,
      isMenuOpen,
      setMenuOpen,
      start: (kind, siteId) => {
        const site = world.sites.get(siteId ?? "");
        if (kind === "sector" && site) return putSector(site);
        setAdding({ kind, fromSiteId: site?.id ?? null });
        // Things are put where the plan is looked at.
        if (!/\/(survey|paths)$/.test(pathname)) void navigate(`/plans/${planId}/survey`);
      },
      stop: () => setAdding(null),
      putAt: (kind, place) => {
        const own = { id: id(), planId, ...place };
        if (kind === "site") {
          const site = newSite({ ...own, name: freeName(world.sites.values(), "Site") });
          put([putPatch("sites", site)], { kind, id: site.id });
        } else {
          const customer = newSubscriber({ ...own, name: freeName(world.subscribers.values(), "Customer") });
          put([putPatch("subscribers", customer)], { kind, id: customer.id });
        }
      },
      takeSite: (siteId) => {
        const site = world.sites.get(siteId);
        if (!site || !adding) return;
        if (adding.kind === "sector") return putSector(site);
        const from = world.sites.get(adding.fromSiteId ?? "");
        if (!from) return setAdding({ kind: "bridge", fromSiteId: siteId });
        if (from.id === siteId) return void toast.error("A bridge ends at another site than it begins at.");
        const patches = proposeBridge(world, from, site, id);
        if (!patches) return void toast.error("The library has no kit for a bridge.");
        put(patches, { kind: "link", id: patches.at(-1)!.id });
      },
    };
  }, [adding, isMenuOpen, put, world, planId, pathname, navigate]);
  return <AddingReact.Provider value={api}>{children}</AddingReact.Provider>;
}
