import { StageOfViews, type Views } from "../stages/StageOfViews";
import { BeamsView } from "./BeamsView";
import { CombView } from "./CombView";
import { HurtsView } from "./HurtsView";
import { PlanView } from "./PlanView";
import { WidthsView } from "./WidthsView";

const VIEWS: Views = {
  comb: { name: "Comb", Shown: CombView },
  hurts: { name: "Who hurts whom", Shown: HurtsView },
  plan: { name: "Plan channels", Shown: PlanView },
  widths: { name: "Widths", Shown: WidthsView },
  beams: { name: "Receive beams", Shown: BeamsView },
};

/** What everybody sends on and hears: channels by hand, who hurts whom, plans for all of them, widths and beams. */
export const ChannelsStage = () => <StageOfViews views={VIEWS} />;
