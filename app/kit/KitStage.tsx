import { ProceduresView } from "../procedures/ProceduresView";
import { StageOfViews, type Views } from "../stages/StageOfViews";
import { AddressesView } from "./AddressesView";
import { BillView } from "./BillView";
import { ChainsView } from "./ChainsView";
import { MastLoadsView } from "./MastLoadsView";
import { StoreView } from "./StoreView";
import { SunView } from "./SunView";

const VIEWS: Views = {
  bill: { name: "Bill", Shown: BillView },
  store: { name: "Store", Shown: StoreView },
  chains: { name: "Cables and power", Shown: ChainsView },
  sun: { name: "Sun and mains", Shown: SunView },
  loads: { name: "Wind and exposure", Shown: MastLoadsView },
  procedures: { name: "Procedures", Shown: ProceduresView },
  addresses: { name: "Addresses", Shown: AddressesView },
};

/** Everything that has to be ready before anyone drives: what to buy, what feeds it, what holds it, what it is called. */
export const KitStage = () => <StageOfViews views={VIEWS} />;
