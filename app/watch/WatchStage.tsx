import { StageOfViews, type Views } from "../stages/StageOfViews";
import { AlarmsView } from "./AlarmsView";
import { LearnedView } from "./LearnedView";
import { NetworkView } from "./NetworkView";
import { RunView } from "./RunView";
import { SourcesView } from "./SourcesView";
import { TimelineView } from "./TimelineView";
import { WatchProvider } from "./WatchContext";

const VIEWS: Views = {
  network: { name: "Network", Shown: NetworkView },
  timeline: { name: "Timeline", Shown: TimelineView },
  alarms: { name: "Alarms", Shown: AlarmsView },
  learned: { name: "Learned", Shown: LearnedView },
  run: { name: "Channel run", Shown: RunView },
  sources: { name: "Where it comes from", Shown: SourcesView },
};

/** What was promised against what is delivered, for years. */
export const WatchStage = () => (
  <WatchProvider>
    <StageOfViews views={VIEWS} />
  </WatchProvider>
);
