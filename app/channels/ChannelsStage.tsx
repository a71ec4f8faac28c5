import { useSearchParams } from "react-router";
import { StageViews } from "../stages/StageViews";
import { CombView } from "./CombView";
import { HurtsView } from "./HurtsView";
import { PlanView } from "./PlanView";

const VIEWS = { comb: "Comb", hurts: "Who hurts whom", plan: "Plan channels" } as const;
type View = keyof typeof VIEWS;

/** What everybody sends on and hears: channels by hand, who hurts whom, and plans for all of them. */
export function ChannelsStage() {
  const [parameters] = useSearchParams();
  const asked = parameters.get("view");
  const view: View = asked === "hurts" || asked === "plan" ? asked : "comb";
  return (
    <div className="flex h-full flex-col">
      <div className="border-b border-rule bg-panel px-3 py-1.5">
        <StageViews views={VIEWS} shown={view} />
      </div>
      <div className="min-h-0 flex-1">
        {view === "hurts" ? <HurtsView /> : view === "plan" ? <PlanView /> : <CombView />}
      </div>
    </div>
  );
}
