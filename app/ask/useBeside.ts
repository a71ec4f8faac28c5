import { useQuery } from "@tanstack/react-query";
import { toast } from "sonner";
import { useCallback, useRef } from "react";
import { request, requestJson } from "./request";

/** How often it is looked at again, so that two people see each other's work, ms. */
const LOOK_MS = 5000;

/** What came of something that was asked for. */
export interface BesideAnswer {
  ok: boolean;
  message: string;
}

/** What lies beside a plan under an address of its own: read, looked at again, and changed by asking for it. */
export function useBeside<Kept, Ask extends object, Answer extends BesideAnswer>(address: string) {
  /** The state that is here, with the tag that names it. */
  const here = useRef<{ address: string; tag: string; kept: Kept } | null>(null);
  const { data, error, refetch } = useQuery<Kept>({
    queryKey: ["beside", address],
    staleTime: 0,
    refetchInterval: LOOK_MS,
    queryFn: async ({ signal }) => {
      const known = here.current?.address === address ? here.current : null;
      const headers: Record<string, string> = known?.tag ? { "If-None-Match": known.tag } : {};
      const response = await request(address, { signal, headers });
      if (response.status === 304 && known) return known.kept;
      const kept = (await response.json()) as Kept;
      here.current = { address, tag: response.headers.get("ETag") ?? "", kept };
      return kept;
    },
  });
  const look = useCallback(async () => void (await refetch()), [refetch]);

  /** Asks for something; gives what came of it, and shows what went wrong. */
  const ask = async (what: Ask): Promise<Answer | null> => {
    try {
      const answer = await requestJson<Answer>(address, { body: what });
      if (!answer.ok) toast.error(answer.message);
      else if (answer.message) toast(answer.message);
      return answer;
    } catch (failure) {
      toast.error((failure as Error).message);
      return null;
    }
  };
  return { kept: data ?? null, failed: error?.message ?? null, look, ask };
}
