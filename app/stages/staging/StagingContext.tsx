import { createContext, useContext, type ReactNode } from "react";
import { useDesk } from "../../desk/DeskContext";
import { useStaging } from "./useStaging";

const BenchContext = createContext<ReturnType<typeof useStaging> | null>(null);

/** Holds a plan's bench for all views of its stage: a run goes on while one looks elsewhere. */
export function StagingProvider({ children }: { children: ReactNode }) {
  const bench = useStaging(useDesk().kept.plan.id);
  return <BenchContext.Provider value={bench}>{children}</BenchContext.Provider>;
}

export function useStagingHere(): ReturnType<typeof useStaging> {
  const bench = useContext(BenchContext);
  if (!bench) throw new Error("the bench is used outside its stage");
  return bench;
}
