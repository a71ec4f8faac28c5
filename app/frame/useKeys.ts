import { useEffect, useRef } from "react";
import type { StageId } from "#core/findings";
import { stageByKey } from "../stages";

export interface KeyActions {
  find: () => void;
  help: () => void;
  go: (stage: StageId) => void;
  history: (way: "undo" | "redo") => void;
  /** The rest is the desk's alone. */
  step?: (by: 1 | -1) => void;
  keep?: () => void;
  /** Closes the innermost thing that is open; it never throws an edit away. */
  close?: () => void;
  add?: () => void;
}

/** How long G waits for its letter. */
const CHORD_MS = 1500;

/** The keys of every page of a plan. Whatever is being typed into, and every button, keeps its own. */
export function useKeys(actions: KeyActions): void {
  const latest = useRef(actions);
  latest.current = actions;
  useEffect(() => {
    let chordUntil = 0;
    const onKey = (event: KeyboardEvent) => {
      const act = latest.current;
      const target = event.target as HTMLElement;
      const typing = /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName);
      const inDialog = target.closest("[role=dialog], [role=alertdialog], [role=menu]") !== null;
      const key = event.key.toLowerCase();
      if (event.ctrlKey || event.metaKey) {
        if (key === "k") return done(event, act.find);
        if (key === "z" && !typing) return done(event, () => act.history(event.shiftKey ? "redo" : "undo"));
        if (key === "y" && !typing) return done(event, () => act.history("redo"));
        return;
      }
      if (inDialog || event.altKey) return;
      // A popover that closed itself, and a box that is being typed into, have used the key.
      if (key === "escape") return typing || event.defaultPrevented || !act.close ? undefined : done(event, act.close);
      if (key === "enter") {
        if (!act.keep) return;
        // A field or a mast head is part of the change, so Enter there keeps it; buttons and links do their own thing.
        const isForm = target.closest("form") !== null;
        if (!isForm && !/^(BUTTON|A|SUMMARY)$/.test(target.tagName)) done(event, act.keep);
        return;
      }
      if (typing) return;
      if (Date.now() < chordUntil) {
        chordUntil = 0;
        const stage = stageByKey(key);
        if (stage) return done(event, () => act.go(stage.id));
      }
      if (key === "g") chordUntil = Date.now() + CHORD_MS;
      else if (key === "/") done(event, act.find);
      else if (event.key === "?") done(event, act.help);
      else if (key === "j" && act.step) done(event, () => act.step!(1));
      else if (key === "k" && act.step) done(event, () => act.step!(-1));
      else if (key === "n" && act.add) done(event, act.add);
    };
    const done = (event: KeyboardEvent, action: () => void) => {
      event.preventDefault();
      action();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
}
