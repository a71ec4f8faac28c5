import { Command } from "cmdk";
import { useNavigate } from "react-router";
import type { StageId } from "#core/findings";
import { STAGES } from "../stages";
import { Modal } from "../ui";
import type { NamedThings } from "../desk/names";

const ITEM = "cursor-pointer rounded px-2 py-1.5 text-sm data-[selected=true]:bg-ground data-[selected=true]:text-clay";
/** Rows drawn for each group; typing narrows them. */
const MOST_ROWS = 400;

/** Something that can be done from the search: "Add site…". */
export interface FinderCommand {
  name: string;
  run: () => void;
}

/** Finds a place, a link or a stage by name, and does what is asked for. */
export function Finder({
  planId,
  open,
  onOpenChange,
  stage,
  things,
  commands,
}: {
  planId: string;
  open: boolean;
  onOpenChange: (open: boolean) => void;
  stage: StageId | null;
  /** Null while they are on their way. */
  things: NamedThings | null;
  commands: readonly FinderCommand[];
}) {
  const navigate = useNavigate();
  const base = `/plans/${planId}`;
  const go = (to: string) => {
    onOpenChange(false);
    void navigate(to);
  };
  const pick = (selection: string, at: StageId) => go(`${base}/${at}?sel=${encodeURIComponent(selection)}`);
  const mapStage = stage === "survey" || stage === "paths" ? stage : "paths";
  const group = (heading: string, rows: readonly { id: string; name: string }[], kind: string, at: StageId) => (
    <Command.Group heading={<span className="px-2 text-xs text-quiet">{heading}</span>}>
      {rows.slice(0, MOST_ROWS).map(({ id, name }) => (
        <Command.Item
          key={id}
          value={`${name} ${kind} ${id}`}
          className={ITEM}
          onSelect={() => pick(`${kind}:${id}`, at)}
        >
          {name}
        </Command.Item>
      ))}
    </Command.Group>
  );
  return (
    <Modal open={open} onOpenChange={onOpenChange} title="Find">
      <Command label="Find a place, link or stage">
        <Command.Input
          autoFocus
          placeholder="Find a place, a link, a stage"
          className="w-full rounded border border-rule bg-panel px-2 py-1.5 text-sm"
        />
        <Command.List className="mt-2 max-h-80 overflow-y-auto">
          <Command.Empty className="p-2 text-sm text-quiet">
            {things ? "Nothing by that name." : "Reading the names…"}
          </Command.Empty>
          <Command.Group heading={<span className="px-2 text-xs text-quiet">Stages and their views</span>}>
            {STAGES.flatMap(({ id, label, views }) => [
              <Command.Item key={id} className={ITEM} onSelect={() => go(`${base}/${id}`)}>
                {label}
              </Command.Item>,
              ...Object.entries(views).map(([view, name]) => (
                <Command.Item key={`${id} ${view}`} className={ITEM} onSelect={() => go(`${base}/${id}?view=${view}`)}>
                  {label} · {name}
                </Command.Item>
              )),
            ])}
          </Command.Group>
          <Command.Group heading={<span className="px-2 text-xs text-quiet">Do</span>}>
            {commands.map(({ name, run }) => (
              <Command.Item
                key={name}
                className={ITEM}
                onSelect={() => {
                  onOpenChange(false);
                  run();
                }}
              >
                {name}
              </Command.Item>
            ))}
          </Command.Group>
          {things && (
            <>
              {group("Sites", things.sites, "site", mapStage)}
              {group("Customers", things.subscribers, "subscriber", mapStage)}
              {group("Links", things.links, "link", "paths")}
            </>
          )}
        </Command.List>
      </Command>
    </Modal>
  );
}
