import { createContext, useContext, type ReactNode } from "react";
import { useDesk } from "../desk/DeskContext";
import { useBench } from "./useBench";

const BenchContext = createContext<ReturnType<typeof useBench> | null>(null);

/** Holds a plan's bench for all views of its stage: a run goes on while one looks elsewhere. */
export function BenchProvider({ children }: { children: ReactNode }) {
  const bench = useBench(useDesk().kept.plan.id);
  return <BenchContext.Provider value={bench}>{children}</BenchContext.Provider>;
}

export function useBenchHere(): ReturnType<typeof useBench> {
  const bench = useContext(BenchContext);
  if (!bench) throw new Error("the bench is used outside its stage");
  return bench;
}
