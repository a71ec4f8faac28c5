import { StageOfViews, type Views } from "../stages/StageOfViews";
import { BackhaulView } from "./BackhaulView";
import { LoadsView } from "./LoadsView";

const VIEWS: Views = {
  sectors: { name: "Sectors’ time", Shown: LoadsView },
  backhaul: { name: "Backhaul", Shown: BackhaulView },
};

/** What is left for each: the sectors' time by customer, and the bridges that feed them. */
export const CapacityStage = () => <StageOfViews views={VIEWS} />;
