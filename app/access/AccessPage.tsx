import type { ReactNode } from "react";
import { Mark } from "../ui";

/** A page about who one is, outside any plan. */
export function AccessPage({ title, children }: { title: string; children: ReactNode }) {
  return (
    <main className="mx-auto max-w-lg space-y-4 px-6 py-10">
      <title>{`${title} – Tejado`}</title>
      <h1 className="flex items-center gap-2 text-xl font-semibold">
        <Mark size={24} /> {title}
      </h1>
      {children}
    </main>
  );
}
