import { StageOfViews } from "../../views/StageOfViews";
import type { StageManifest } from "../../views/manifest";
import { BackhaulView } from "./BackhaulView";
import { LoadsView } from "./LoadsView";

const SHOWN = {
  sectors: LoadsView,
  backhaul: BackhaulView,
} as const;

/** What is left for each: the sectors' time by customer, and the bridges that feed them. */
export const CapacityStage = ({ stage }: { stage: StageManifest }) => <StageOfViews stage={stage} shown={SHOWN} />;
