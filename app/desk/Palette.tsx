import { Command } from "cmdk";
import { Dialog } from "radix-ui";
import { useNavigate } from "react-router";
import { useDesk } from "./DeskContext";
import { placeNameOf } from "./Lists";
import { selectionText, type Selection } from "./selection";
import { STAGE_NAMES, STAGES, type Stage } from "./stages";

const ITEM = "cursor-pointer rounded px-2 py-1.5 text-sm data-[selected=true]:bg-ground data-[selected=true]:text-clay";
/** Rows drawn for each group; typing narrows them. */
const MOST_ROWS = 400;

/** Finds a place, a link or a stage by name. */
export function Palette({
  open,
  onOpenChange,
  stage,
}: {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  stage: Stage;
}) {
  const { world } = useDesk();
  const navigate = useNavigate();
  const base = `/plans/${world.plan.id}`;
  const go = (to: string) => {
    onOpenChange(false);
    void navigate(to);
  };
  const pick = (selection: NonNullable<Selection>, at: Stage) =>
    go(`${base}/${at}?sel=${encodeURIComponent(selectionText(selection))}`);
  const mapStage = stage === "survey" || stage === "paths" ? stage : "paths";
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/30" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-24 left-1/2 z-50 w-120 max-w-[92vw] -translate-x-1/2 rounded border border-rule bg-panel p-2 shadow-xl"
        >
          <Dialog.Title className="sr-only">Find</Dialog.Title>
          <Command label="Find a place, link or stage">
            <Command.Input
              autoFocus
              placeholder="Find a place, a link, a stage"
              className="w-full rounded border border-rule bg-panel px-2 py-1.5 text-sm"
            />
            <Command.List className="mt-2 max-h-80 overflow-y-auto">
              <Command.Empty className="p-2 text-sm text-quiet">Nothing by that name.</Command.Empty>
              <Command.Group heading={<span className="px-2 text-xs text-quiet">Stages</span>}>
                {STAGES.map((one) => (
                  <Command.Item key={one} className={ITEM} onSelect={() => go(`${base}/${one}`)}>
                    {STAGE_NAMES[one]}
                  </Command.Item>
                ))}
              </Command.Group>
              <Command.Group heading={<span className="px-2 text-xs text-quiet">Places</span>}>
                {[...world.sites.values()].map((site) => (
                  <Command.Item
                    key={site.id}
                    value={`${site.name} site ${site.id}`}
                    className={ITEM}
                    onSelect={() => pick({ kind: "site", id: site.id }, mapStage)}
                  >
                    {site.name}
                  </Command.Item>
                ))}
                {[...world.subscribers.values()].slice(0, MOST_ROWS).map((subscriber) => (
                  <Command.Item
                    key={subscriber.id}
                    value={`${subscriber.name} ${subscriber.id}`}
                    className={ITEM}
                    onSelect={() => pick({ kind: "subscriber", id: subscriber.id }, mapStage)}
                  >
                    {subscriber.name}
                  </Command.Item>
                ))}
              </Command.Group>
              <Command.Group heading={<span className="px-2 text-xs text-quiet">Links</span>}>
                {[...world.links.values()].slice(0, MOST_ROWS).map((link) => {
                  const name = `${placeNameOf(world, link.aRadioId)} – ${placeNameOf(world, link.bRadioId)}`;
                  return (
                    <Command.Item
                      key={link.id}
                      value={`${name} link ${link.id}`}
                      className={ITEM}
                      onSelect={() => pick({ kind: "link", id: link.id }, "paths")}
                    >
                      {name}
                    </Command.Item>
                  );
                })}
              </Command.Group>
            </Command.List>
          </Command>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
