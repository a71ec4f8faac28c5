import { StageOfViews } from "../../views/StageOfViews";
import type { StageManifest } from "../../views/manifest";
import { StagingProvider } from "./StagingContext";
import { ChecklistView } from "./ChecklistView";
import { ConfigurationView } from "./ConfigurationView";
import { DevicesView } from "./DevicesView";

const SHOWN = {
  devices: DevicesView,
  checklist: ChecklistView,
  configuration: ConfigurationView,
} as const;

/** The table on which every device is set up, tried and packed before anyone drives. */
export const StagingStage = ({ stage }: { stage: StageManifest }) => (
  <StagingProvider>
    <StageOfViews stage={stage} shown={SHOWN} />
  </StagingProvider>
);
