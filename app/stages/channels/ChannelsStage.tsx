import { StageOfViews } from "../../views/StageOfViews";
import type { StageManifest } from "../../views/manifest";
import { BeamsView } from "./BeamsView";
import { CombView } from "./CombView";
import { HurtsView } from "./HurtsView";
import { PlanView } from "./PlanView";
import { WidthsView } from "./WidthsView";

const SHOWN = {
  comb: CombView,
  hurts: HurtsView,
  plan: PlanView,
  widths: WidthsView,
  beams: BeamsView,
} as const;

/** What everybody sends on and hears: channels by hand, who hurts whom, plans for all of them, widths and beams. */
export const ChannelsStage = ({ stage }: { stage: StageManifest }) => <StageOfViews stage={stage} shown={SHOWN} />;
