import { toast } from "sonner";
import { useCallback, useEffect, useState } from "react";

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
  const look = useCallback(
    async (signal?: AbortSignal) => {
      try {
        const response = await fetch(address, { ...(signal ? { signal } : {}) });
        if (!response.ok) return setFailed(await response.text());
        setKept((await response.json()) as Kept);
        setFailed(null);
      } catch {
        if (!signal?.aborted) setFailed(NOT_ANSWERING);
      }
    },
    [address],
  );
  useEffect(() => {
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
    const isJson = response.headers.get("content-type")?.startsWith("application/json") ?? false;
    const answer = isJson
      ? ((await response.json()) as Answer)
      : ({ ok: false, message: await response.text() } as Answer);
    if (!answer.ok) toast.error(answer.message);
    else if (answer.message) toast(answer.message);
    return answer;
  };
  return { kept, failed, look, ask };
}
