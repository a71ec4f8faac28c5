import { toast } from "sonner";
import { useCallback, useEffect, useRef, useState } from "react";
import { said } from "./said";

const NOT_ANSWERING = "Tejado does not answer; try again.";
/** How often it is looked at again, so that two people see each other's work, ms. */
const LOOK_MS = 5000;

/** What came of something that was asked for. */
export interface BesideAnswer {
  ok: boolean;
  message: string;
}

/** What lies beside a plan under an address of its own: read, looked at again, and changed by asking for it. */
export function useBeside<Kept, Ask extends object, Answer extends BesideAnswer>(address: string) {
  const [kept, setKept] = useState<Kept | null>(null);
  const [failed, setFailed] = useState<string | null>(null);
  /** Names the state that is here. */
  const stamp = useRef("");
  const look = useCallback(
    async (signal?: AbortSignal) => {
      try {
        const headers: HeadersInit = stamp.current ? { "If-None-Match": stamp.current } : {};
        const response = await fetch(address, { headers, ...(signal ? { signal } : {}) });
        if (response.status === 304) return setFailed(null);
        if (!response.ok) return setFailed(await said(response));
        setKept((await response.json()) as Kept);
        stamp.current = response.headers.get("ETag") ?? "";
        setFailed(null);
      } catch {
        if (!signal?.aborted) setFailed(NOT_ANSWERING);
      }
    },
    [address],
  );
  useEffect(() => {
    stamp.current = "";
    const leaving = new AbortController();
    void look(leaving.signal);
    const timer = setInterval(() => void look(leaving.signal), LOOK_MS);
    return () => {
      clearInterval(timer);
      leaving.abort();
    };
  }, [look]);

  /** Asks for something; answers what came of it, having told whatever went wrong. */
  const ask = async (what: Ask): Promise<Answer | null> => {
    const response = await fetch(address, {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify(what),
    }).catch(() => null);
    if (!response) {
      toast.error(NOT_ANSWERING);
      return null;
    }
    const answer = response.ok
      ? ((await response.json()) as Answer)
      : ({ ok: false, message: await said(response) } as Answer);
    if (!answer.ok) toast.error(answer.message);
    else if (answer.message) toast(answer.message);
    return answer;
  };
  return { kept, failed, look, ask };
}
