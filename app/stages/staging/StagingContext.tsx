import { createContext, useContext, type ReactNode } from "react";
import { useDesk } from "../../desk/DeskContext";
import { useStaging } from "./useStaging";

const StagingReact = createContext<ReturnType<typeof useStaging> | null>(null);

/** Holds what was noted of a plan's devices for all views of the stage: a run goes on while one looks elsewhere. */
export function StagingProvider({ children }: { children: ReactNode }) {
  const staging = useStaging(useDesk().kept.plan.id);
  return <StagingReact.Provider value={staging}>{children}</StagingReact.Provider>;
}

export function useStagingHere(): ReturnType<typeof useStaging> {
  const staging = useContext(StagingReact);
  if (!staging) throw new Error("useStagingHere stands outside its stage");
  return staging;
}
