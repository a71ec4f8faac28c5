import { StageOfViews } from "../../views/StageOfViews";
import type { StageManifest } from "../../views/manifest";
import { AlarmsView } from "./AlarmsView";
import { LearnedView } from "./LearnedView";
import { NetworkView } from "./NetworkView";
import { RunView } from "./RunView";
import { SourcesView } from "./SourcesView";
import { TimelineView } from "./TimelineView";
import { MonitoringProvider } from "./MonitoringContext";

const SHOWN = {
  network: NetworkView,
  timeline: TimelineView,
  alarms: AlarmsView,
  learned: LearnedView,
  run: RunView,
  sources: SourcesView,
} as const;

/** What was promised against what is delivered, for years. */
export const MonitoringStage = ({ stage }: { stage: StageManifest }) => (
  <MonitoringProvider>
    <StageOfViews stage={stage} shown={SHOWN} />
  </MonitoringProvider>
);
