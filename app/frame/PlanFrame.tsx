import { useRef, useState, type ReactNode } from "react";
import { useLocation, useNavigate, useRevalidator, useRouteLoaderData } from "react-router";
import { useAnswer } from "../ask/useAnswer";
import { toast } from "sonner";
import { ADDABLE } from "../adding/addable";
import { postStep } from "../keep/post";
import { Finder, type FinderCommand } from "./Finder";
import type { NamedThings } from "../desk/names";
import { PlanBar, type Steps } from "./PlanBar";
import { Shortcuts } from "./Shortcuts";
import type { StageId } from "#core/findings";
import { useKeys, type KeyActions } from "./useKeys";

/** What the frame of every page of a plan shows of it. */
export interface FrameData {
  plan: { id: string; name: string };
  revision: number;
  /** Open findings of each stage; null while nobody has worked them out. */
  counts: Record<StageId, number> | null;
  steps: Steps;
}

/** What the desk adds to the frame: its stage and the change in hand. */
interface DeskInFrame {
  stage: StageId;
  counts: Record<StageId, number>;
  status: string;
  busy: boolean;
  things: NamedThings;
  commands: readonly FinderCommand[];
  keys: Pick<KeyActions, "step" | "keep" | "close" | "add">;
  /** Brings back the draft that was discarded last, where undo does that first. */
  takeBack: (() => void) | null;
  /** Does work that changes the plan in its turn. */
  inTurn: (work: () => Promise<void>) => Promise<void>;
}

const LONG_MS = 12_000;

/** The bar, the search and the keys around every page of a plan. `desk` is what only the desk knows of itself. */
export function PlanFrame({ desk, children }: { desk?: DeskInFrame; children: ReactNode }) {
  const frame = useRouteLoaderData<FrameData>("routes/plan");
  if (!frame) throw new Error("the frame stands outside its plan");
  const { plan, steps } = frame;
  const navigate = useNavigate();
  const { search } = useLocation();
  const { revalidate } = useRevalidator();
  const [finding, setFinding] = useState(false);
  const [help, setHelp] = useState(false);
  const [stepping, setStepping] = useState(false);
  const things = useNames(plan.id, finding && !desk) ?? desk?.things ?? null;

  // Undo is pressed faster than it is answered: each press waits its turn, none is lost.
  const turn = useRef<Promise<void>>(Promise.resolve());
  const inTurn =
    desk?.inTurn ??
    ((work: () => Promise<void>) =>
      (turn.current = turn.current.then(work).catch((error: unknown) => {
        toast.error(`Nothing was undone or redone: ${error instanceof Error ? error.message : String(error)}.`);
      })));
  const step = (way: "undo" | "redo", leaveTheirs = false) =>
    void inTurn(async () => {
      setStepping(true);
      const answer = await postStep(plan.id, way, leaveTheirs);
      await revalidate();
      setStepping(false);
      if (answer.ok) toast(answer.message);
      else if (answer.conflicts)
        toast.error(answer.message, {
          duration: LONG_MS,
          action: {
            label: way === "undo" ? "Take back the rest" : "Redo the rest",
            onClick: () => step(way, true),
          },
        });
      else toast.error(answer.message, { duration: LONG_MS });
    });
  const takeBack = desk?.takeBack ?? null;
  const stepOrTakeBack = (way: "undo" | "redo") => {
    if (way !== "undo" || !takeBack) return step(way);
    takeBack();
    toast("Draft restored.");
  };
  useKeys({
    find: () => setFinding(true),
    help: () => setHelp(true),
    go: (to) => void navigate(`/plans/${plan.id}/${to}${desk ? search : ""}`),
    history: stepOrTakeBack,
    ...desk?.keys,
  });
  const page = (name: string, path: string): FinderCommand => ({
    name,
    run: () => void navigate(`/plans/${plan.id}/${path}`),
  });
  const adding = ADDABLE.map(({ word }) => page(`Add ${word}…`, `survey?add=${word}`));
  const commands = [
    ...(desk?.commands ?? adding),
    page("Register of customers and sites", "register"),
    page("Library of kit", "library"),
    page("Import files", "import"),
    page("Logbook", "logbook"),
    page("Plan settings", "settings"),
  ];
  return (
    <div className="flex h-dvh flex-col">
      <PlanBar
        plan={plan}
        stage={desk?.stage ?? null}
        counts={desk?.counts ?? frame.counts}
        steps={takeBack ? { ...steps, undo: "bring back the discarded draft" } : steps}
        status={desk?.status ?? "saved"}
        busy={stepping || (desk?.busy ?? false)}
        onFind={() => setFinding(true)}
        onHelp={() => setHelp(true)}
        onStep={stepOrTakeBack}
      />
      {desk ? children : <div className="flex min-h-0 flex-1 flex-col overflow-y-auto">{children}</div>}
      <Finder
        planId={plan.id}
        open={finding}
        onOpenChange={setFinding}
        stage={desk?.stage ?? null}
        things={things}
        commands={commands}
      />
      <Shortcuts open={help} onOpenChange={setHelp} />
    </div>
  );
}

/** The plan's names, fetched once they are wanted; null until then. */
const useNames = (planId: string, wanted: boolean): NamedThings | null =>
  useAnswer<NamedThings>(wanted ? { address: `/plans/${planId}/names` } : null, { isFresh: true }).answer;
