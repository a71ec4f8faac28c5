import { ProceduresView } from "./procedures/ProceduresView";
import { StageOfViews } from "../../views/StageOfViews";
import type { StageManifest } from "../../views/manifest";
import { AddressesView } from "./AddressesView";
import { BillView } from "./BillView";
import { ChainsView } from "./ChainsView";
import { MastLoadsView } from "./MastLoadsView";
import { StoreView } from "./StoreView";
import { SunView } from "./SunView";

const SHOWN = {
  bill: BillView,
  store: StoreView,
  chains: ChainsView,
  sun: SunView,
  loads: MastLoadsView,
  procedures: ProceduresView,
  addresses: AddressesView,
} as const;

/** Everything that has to be ready before anyone drives: what to buy, what feeds it, what holds it, what it is called. */
export const KitStage = ({ stage }: { stage: StageManifest }) => <StageOfViews stage={stage} shown={SHOWN} />;
