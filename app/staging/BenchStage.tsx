import { StageOfViews, type Views } from "../stages/StageOfViews";
import { BenchProvider } from "./BenchContext";
import { ChecklistView } from "./ChecklistView";
import { ConfigurationView } from "./ConfigurationView";
import { DevicesView } from "./DevicesView";

const VIEWS: Views = {
  devices: { name: "Devices", Shown: DevicesView },
  checklist: { name: "Checklist", Shown: ChecklistView },
  configuration: { name: "Configuration", Shown: ConfigurationView },
};

/** The table on which every device is set up, tried and packed before anyone drives. */
export const BenchStage = () => (
  <BenchProvider>
    <StageOfViews views={VIEWS} />
  </BenchProvider>
);
