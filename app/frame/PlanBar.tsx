import { DropdownMenu } from "radix-ui";
import {
  AudioLines,
  BookOpen,
  Check,
  CircleHelp,
  FileInput,
  FileOutput,
  LayoutList,
  RadioTower,
  Scale,
  Menu,
  Redo2,
  Search,
  SlidersHorizontal,
  Table2,
  Undo2,
  UserRound,
  Users,
  HardHat,
} from "lucide-react";
import { useEffect, useRef, type ReactNode } from "react";
import { Link, useFetcher, useLocation } from "react-router";
import { Button, Mark, usePreferences } from "../ui";
import type { StageId } from "#core/findings";
import { STAGES } from "../stages";

const ITEM =
  "flex items-center gap-2 rounded px-2 py-1 text-sm outline-none data-[highlighted]:bg-ground data-[highlighted]:text-clay cursor-pointer";

function PlanMenu({ planId }: { planId: string }) {
  const preferences = usePreferences();
  const fetcher = useFetcher();
  const set = (change: Record<string, string>) => {
    void fetcher.submit(change, { method: "post", action: "/preferences" });
  };
  const choices = <K extends "theme" | "units" | "coordinates">(key: K, label: string, values: [string, string][]) => (
    <>
      <DropdownMenu.Label className="px-2 pt-2 text-xs text-quiet">{label}</DropdownMenu.Label>
      <DropdownMenu.RadioGroup value={preferences[key]} onValueChange={(value) => set({ [key]: value })}>
        {values.map(([value, text]) => (
          <DropdownMenu.RadioItem key={value} value={value} className={ITEM}>
            <span className="w-4">
              <DropdownMenu.ItemIndicator>
                <Check size={14} />
              </DropdownMenu.ItemIndicator>
            </span>
            {text}
          </DropdownMenu.RadioItem>
        ))}
      </DropdownMenu.RadioGroup>
    </>
  );
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>
        <Button look="quiet" aria-label="Menu">
          <Menu size={16} />
        </Button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={4}
          className="z-50 w-56 rounded border border-rule bg-panel p-1 shadow-lg"
        >
          <DropdownMenu.Item asChild className={ITEM}>
            <Link to={`/plans/${planId}/import`}>
              <FileInput size={14} /> Import files
            </Link>
          </DropdownMenu.Item>
          <DropdownMenu.Item asChild className={ITEM}>
            <Link to={`/plans/${planId}/export`}>
              <FileOutput size={14} /> Export
            </Link>
          </DropdownMenu.Item>
          <DropdownMenu.Item asChild className={ITEM}>
            <Link to={`/plans/${planId}/register`}>
              <Table2 size={14} /> Register
            </Link>
          </DropdownMenu.Item>
          <DropdownMenu.Item asChild className={ITEM}>
            <Link to={`/plans/${planId}/noise`}>
              <AudioLines size={14} /> Noise
            </Link>
          </DropdownMenu.Item>
          <DropdownMenu.Item asChild className={ITEM}>
            <Link to={`/plans/${planId}/library`}>
              <RadioTower size={14} /> Library of kit
            </Link>
          </DropdownMenu.Item>
          <DropdownMenu.Item asChild className={ITEM}>
            <Link to={`/plans/${planId}/rules`}>
              <Scale size={14} /> Rules
            </Link>
          </DropdownMenu.Item>
          <DropdownMenu.Item asChild className={ITEM}>
            <Link to={`/plans/${planId}/logbook`}>
              <BookOpen size={14} /> Logbook
            </Link>
          </DropdownMenu.Item>
          <DropdownMenu.Item asChild className={ITEM}>
            <Link to={`/plans/${planId}/settings`}>
              <SlidersHorizontal size={14} /> Plan settings
            </Link>
          </DropdownMenu.Item>
          <DropdownMenu.Item asChild className={ITEM}>
            <Link to={`/plans/${planId}/people`}>
              <Users size={14} /> People of this plan
            </Link>
          </DropdownMenu.Item>
          <DropdownMenu.Item asChild className={ITEM}>
            <Link to={`/plans/${planId}/crew`}>
              <HardHat size={14} /> For the crew
            </Link>
          </DropdownMenu.Item>
          <DropdownMenu.Item asChild className={ITEM}>
            <Link to={`/you?from=/plans/${planId}`}>
              <UserRound size={14} /> You and your map tiles
            </Link>
          </DropdownMenu.Item>
          <DropdownMenu.Item asChild className={ITEM}>
            <Link to="/">
              <LayoutList size={14} /> All plans, backup
            </Link>
          </DropdownMenu.Item>
          {choices("theme", "Theme", [
            ["system", "As the system"],
            ["light", "Light"],
            ["dark", "Dark"],
          ])}
          {choices("units", "Lengths", [
            ["metric", "Metres"],
            ["imperial", "Feet and miles"],
          ])}
          {choices("coordinates", "Coordinates", [
            ["decimal", "Decimal degrees"],
            ["dms", "Degrees, minutes, seconds"],
            ["dm", "Degrees, minutes"],
          ])}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/** What undo and redo would act on, by its label; null where there is nothing. */
export interface Steps {
  undo: string | null;
  redo: string | null;
}

/** The bar across the top of every page of a plan: its stages with their open findings, search, undo and redo, menu. */
export function PlanBar({
  plan,
  stage,
  counts,
  steps,
  status,
  busy,
  onFind,
  onHelp,
  onStep,
}: {
  plan: { id: string; name: string };
  stage: StageId | null;
  /** Open findings of each stage; null while nobody has worked them out. */
  counts: Record<StageId, number> | null;
  steps: Steps;
  status: string;
  busy: boolean;
  onFind: () => void;
  onHelp: () => void;
  onStep: (way: "undo" | "redo") => void;
}) {
  const { search } = useLocation();
  const open = useRef<HTMLAnchorElement>(null);
  // On a phone the stages are wider than the screen: the one that is open stands in sight.
  useEffect(() => {
    // Some browsers give a promise, which is no way to take an effect back.
    void open.current?.scrollIntoView({ block: "nearest", inline: "center" });
  }, [stage]);
  const step = (way: "undo" | "redo", word: string, icon: ReactNode) => (
    <Button
      look="quiet"
      disabled={!steps[way] || busy}
      onClick={() => onStep(way)}
      title={steps[way] ? `${word}: ${steps[way]}` : `Nothing of yours to ${way}`}
      aria-label={word}
    >
      {icon}
    </Button>
  );
  return (
    <header className="relative flex h-11 shrink-0 items-center gap-2 overflow-x-auto border-b border-rule bg-panel px-3 max-md:h-auto max-md:flex-wrap max-md:gap-y-0">
      <Link to="/" aria-label="All plans" className="flex shrink-0 items-center">
        <Mark />
      </Link>
      <Link
        to={`/plans/${plan.id}`}
        className="max-w-44 shrink-0 truncate font-semibold hover:text-clay max-md:max-w-24"
        title={plan.name}
      >
        {plan.name}
      </Link>
      <nav
        aria-label="Stages"
        tabIndex={0}
        className="flex h-full max-md:relative max-md:order-last max-md:h-12 max-md:w-full max-md:overflow-x-auto"
      >
        {STAGES.map(({ id: one, label }) => {
          const count = counts?.[one] ?? 0;
          const here = one === stage;
          return (
            <Link
              key={one}
              to={`/plans/${plan.id}/${one}${stage ? search : ""}`}
              aria-current={here ? "page" : undefined}
              ref={here ? open : undefined}
              className={`flex items-center gap-1 border-b-2 px-1.5 text-[13px] 2xl:px-2 2xl:text-sm ${here ? "border-clay font-semibold" : "border-transparent hover:text-clay"}`}
            >
              {label}
              {count > 0 && (
                <span className="figures rounded border border-rule px-1 text-xs leading-4 text-quiet">
                  {count}
                  <span className="sr-only"> {count === 1 ? "open finding" : "open findings"}</span>
                </span>
              )}
            </Link>
          );
        })}
      </nav>
      {/* However many stages and findings there are, what holds for all of them stays in sight. */}
      <div className="right-0 -mr-3 ml-auto flex h-full items-center gap-1 bg-panel pr-3 pl-2 max-md:h-11 max-md:gap-0 lg:sticky">
        <Button onClick={onFind} className="w-30 justify-start text-quiet max-md:w-auto 2xl:w-44" aria-label="Find">
          <Search size={14} aria-hidden="true" className="shrink-0" /> <span className="max-md:hidden">Find</span>
          <kbd className="ml-auto text-xs max-md:hidden">Ctrl K</kbd>
        </Button>
        {step("undo", "Undo", <Undo2 size={16} />)}
        {step("redo", "Redo", <Redo2 size={16} />)}
        <span role="status" className="min-w-16 text-xs whitespace-nowrap text-quiet max-md:min-w-10">
          {busy ? "saving…" : status}
        </span>
        <Button look="quiet" onClick={onHelp} aria-label="Keyboard shortcuts" title="Keyboard shortcuts (?)">
          <CircleHelp size={16} />
        </Button>
        <PlanMenu planId={plan.id} />
      </div>
    </header>
  );
}
