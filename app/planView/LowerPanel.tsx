import { Tabs } from "radix-ui";
import type { ReactNode } from "react";
import { setOrDrop, useAddress } from "../ui";

export interface PanelTab {
  key: string;
  title: string;
  content: ReactNode;
  /** Stays as it is while another tab is shown: work under way and its result are not lost. */
  stays?: boolean;
}

/** The panel below the plan: several answers to one selection, the chosen one in the URL. */
export function LowerPanel({ tabs }: { tabs: PanelTab[] }) {
  const [params, setParams] = useAddress();
  // Links of before say "bench".
  const wanted = params.get("panel") ?? params.get("bench");
  const shown = tabs.some(({ key }) => key === wanted) ? wanted! : tabs[0]!.key;
  return (
    <Tabs.Root
      value={shown}
      onValueChange={(key) =>
        setParams(
          (params) => {
            params.delete("bench");
            setOrDrop(params, "panel", key === tabs[0]!.key ? null : key);
          },
          { replace: true, preventScrollReset: true },
        )
      }
      className="flex h-full flex-col"
    >
      <Tabs.List
        aria-label="Answers about the selection"
        className="flex shrink-0 gap-4 border-b border-rule px-3 pt-1 text-[13px]"
      >
        {tabs.map(({ key, title }) => (
          <Tabs.Trigger
            key={key}
            value={key}
            className="border-b-2 border-transparent pb-0.5 hover:text-clay data-[state=active]:border-clay data-[state=active]:font-semibold"
          >
            {title}
          </Tabs.Trigger>
        ))}
      </Tabs.List>
      {tabs.map(({ key, content, stays }) => (
        <Tabs.Content
          key={key}
          value={key}
          {...(stays ? { forceMount: true } : {})}
          className="data-[state=inactive]:hidden min-h-0 flex-1 overflow-auto outline-none focus-visible:ring-2 focus-visible:ring-clay focus-visible:ring-inset"
        >
          {content}
        </Tabs.Content>
      ))}
    </Tabs.Root>
  );
}
