import { StageOfViews } from "../../views/StageOfViews";
import type { StageManifest } from "../../views/manifest";
import { CrewsView } from "./CrewsView";
import { JobsBoard } from "./JobsBoard";
import { LinkCards } from "./LinkCards";

const SHOWN = {
  jobs: JobsBoard,
  crews: CrewsView,
  links: LinkCards,
} as const;

/** What is planned as work: who goes where on which day, and how far they are. */
export function InstallStage({ stage }: { stage: StageManifest }) {
  return <StageOfViews stage={stage} shown={SHOWN} />;
}
