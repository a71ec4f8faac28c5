import { StageOfViews, type Views } from "../stages/StageOfViews";
import { CrewsView } from "./CrewsView";
import { JobsBoard } from "./JobsBoard";
import { LinkCards } from "./LinkCards";

const VIEWS: Views = {
  jobs: { name: "Jobs", Shown: JobsBoard },
  crews: { name: "Crews", Shown: CrewsView },
  links: { name: "Links", Shown: LinkCards },
};

/** What is planned as work: who goes where on which day, and how far they are. */
export function InstallStage() {
  return <StageOfViews views={VIEWS} />;
}
