import { frontsOf } from "#core/mast";
import { linkEnds, radiosTouched, setPatch, toPlaceStep } from "#core/plan";
import type { Place } from "#core/geodesy";
import { useMemo, useState } from "react";
import { toast } from "sonner";
import { useAdding } from "../adding/AddingContext";
import { AddBar } from "../adding/AddBar";
import { AddMenu } from "../adding/AddMenu";
import { PointMenu, type AskedPoint } from "../adding/PointMenu";
import { Group, Panel, Separator } from "react-resizable-panels";
import { BandsView } from "./BandsView";
import { LowerPanel, type PanelTab } from "./LowerPanel";
import { ClientAntennasView } from "./ClientAntennasView";
import { PlacesInView } from "./PlacesInView";
import { WaysView } from "./WaysView";
import type { MapLink, MapPick } from "../map/types";
import { CursorProvider, PlanUnderCursor, SectionUnderCursor } from "../desk/cursor";
import { useDesk } from "../desk/DeskContext";
import { useGroundTools } from "./MapTools";
import { placeNameOf } from "../desk/names";
import type { StageManifest } from "../views/manifest";
import { onMap, useMapPlaces } from "../desk/mapPlaces";

/** Where the ray of a blocked link is cut, as a share of its length; the middle until its profile is here. */
function useMapLinks(): MapLink[] {
  const { world, summaries, kept, draft, link: selectedLink, answer, outcome, stateOf } = useDesk();
  return useMemo(() => {
    const touched = new Set(draft.patches.map((patch) => patch.id));
    const radios = radiosTouched([world], draft.patches);
    return [...world.links.values()].map((link) => {
      const { a, b } = linkEnds(world, link);
      const state = summaries.get(link.id)?.state ?? "unknown";
      const clearance = link === selectedLink ? answer?.path?.clearance : undefined;
      const cut = clearance && answer ? (clearance.worstKm * 1000) / answer.distanceM : 0.5;
      return {
        id: link.id,
        label: `${placeNameOf(world, link.aRadioId)} – ${placeNameOf(world, link.bRadioId)}`,
        from: a.place,
        to: b.place,
        subscriberId: b.radio.subscriberId,
        state,
        proof: stateOf(link.id),
        cutShare: state === "blocked" ? cut : null,
        inHand:
          !kept.links.has(link.id) || touched.has(link.id) || radios.has(link.aRadioId) || radios.has(link.bRadioId),
      };
    });
    // Summaries are rebuilt each render; the outcome changes whenever one of them does.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [world, kept, draft.patches, selectedLink, answer?.state, outcome, stateOf]);
}

/** The drawing set: plan above, section below, one selection and one cursor. */
export function PlanAndSection({ stage: { list } }: { stage: StageManifest }) {
  const canDraw = list === "places";
  const ground = useGroundTools(canDraw);
  const { data, world, selection, select, link, answer, profiles, draft, heat, lookedAt } = useDesk();
  const { sites, subscribers } = useMapPlaces(world);
  const outsiders = useMemo(() => [...world.outsiders.values()], [world.outsiders]);
  const fronts = useMemo(() => frontsOf(world), [world]);
  const links = useMapLinks();
  const ends = link ? linkEnds(world, link) : null;
  const profile = ends ? profiles.get([ends.a.place, ends.b.place]) : undefined;

  const onHeight = (end: "a" | "b", heightM: number) => {
    const { radio } = ends![end];
    draft.put([setPatch("radios", radio.id, { heightM })]);
  };
  const { adding, putAt, takeSite } = useAdding();
  const [asked, setAsked] = useState<AskedPoint | null>(null);
  const onPoint = (place: Place, pick: MapPick | null) => {
    if (adding?.kind === "site" || adding?.kind === "subscriber") putAt(adding.kind, place);
    else if (pick?.kind === "site") takeSite(pick.id);
    else
      toast(adding?.kind === "bridge" ? "Click a site: a bridge stands between two." : "Click the site it stands on.");
  };
  const onMoved = (pick: MapPick, { latDeg, lonDeg }: Place) => {
    const set = { latDeg: toPlaceStep(latDeg), lonDeg: toPlaceStep(lonDeg) };
    if (pick.kind === "site") draft.put([setPatch("sites", pick.id, set)]);
    if (pick.kind === "subscriber") draft.put([setPatch("subscribers", pick.id, set)]);
  };
  const tabs: PanelTab[] = [];
  if (link) {
    tabs.push(
      {
        key: "section",
        title: "Section",
        content:
          ends && profile && answer?.path ? (
            <SectionUnderCursor
              profile={profile}
              path={answer.path}
              a={ends.a}
              b={ends.b}
              kFactor={world.plan.kFactor}
              onHeight={onHeight}
            />
          ) : (
            <p className="flex h-full items-center justify-center px-8 text-center text-sm text-quiet">
              {answer?.problem
                ? "No section: this path cannot be answered. The sheet says why."
                : "Reading the profile…"}
            </p>
          ),
      },
      { key: "ways", title: "Ways out", content: <WaysView link={link} />, stays: true },
      { key: "bands", title: "Bands", content: <BandsView link={link} /> },
    );
    if (link.kind === "access")
      tabs.push({ key: "antennas", title: "Antennas", content: <ClientAntennasView link={link} /> });
  }
  const site = selection?.kind === "site" ? world.sites.get(selection.id) : undefined;
  if (site) {
    const whom: PanelTab = {
      key: "subscribers",
      title: "Whom it could serve",
      content: <PlacesInView place={site} isSite of="subscribers" />,
    };
    const bridges: PanelTab = {
      key: "sites",
      title: "Bridges to other sites",
      content: <PlacesInView place={site} isSite of="sites" />,
    };
    // Where nobody is to be served yet, the other sites are the question.
    tabs.push(...(world.subscribers.size > 0 ? [whom, bridges] : [bridges, whom]));
  }
  const subscriber = selection?.kind === "subscriber" ? world.subscribers.get(selection.id) : undefined;
  if (subscriber)
    tabs.push({
      key: "from",
      title: "From which site?",
      content: <PlacesInView place={subscriber} isSite={false} of="sites" />,
    });
  return (
    <CursorProvider>
      <Group orientation="vertical" id="plan-section" className="h-full">
        <Panel id="plan" defaultSize="58%" minSize="25%">
          <PlanUnderCursor
            profile={profile}
            planId={data.world.plan.id}
            terrain={data.terrain && { version: data.terrain.reliefVersion, extent: data.terrain.extent }}
            sites={sites}
            subscribers={subscribers}
            links={links}
            outsiders={outsiders}
            fronts={fronts}
            selected={onMap(selection)}
            onPick={select}
            heat={heat}
            lookAt={lookedAt}
            onPoint={adding ? onPoint : null}
            onMenu={setAsked}
            onMoved={onMoved}
            over={
              <>
                <AddBar />
                <PointMenu point={asked} onClose={() => setAsked(null)} />
              </>
            }
            {...ground}
            tools={
              <>
                <AddMenu isFirst={!canDraw} />
                {ground.tools}
              </>
            }
          />
        </Panel>
        <Separator
          aria-label="Divider between plan and section"
          className="h-1.5 border-y border-rule bg-ground data-[separator=hover]:bg-clay focus-visible:bg-clay"
        />
        <Panel id="section" minSize="20%">
          {tabs.length > 0 ? (
            <LowerPanel key={selection?.id ?? ""} tabs={tabs} />
          ) : (
            <p className="flex h-full items-center justify-center px-8 text-center text-sm text-quiet">
              Choose a link to cut the ground along it, or a place to see whom it reaches.
            </p>
          )}
        </Panel>
      </Group>
    </CursorProvider>
  );
}
