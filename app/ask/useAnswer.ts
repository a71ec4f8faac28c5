import { QueryClient, useQuery } from "@tanstack/react-query";
import { useResting } from "../ui/useResting";
import { requestJson } from "./request";

/** How long an answer that nobody looks at is kept, ms. */
const KEPT_MS = 60_000;

/** The questions of one window: an answer follows from its question, so that it never grows old; a refusal is shown, not tried again. */
export const questions = (): QueryClient =>
  new QueryClient({
    defaultOptions: {
      // A server on this machine answers without any network.
      queries: {
        staleTime: Infinity,
        gcTime: KEPT_MS,
        retry: false,
        refetchOnWindowFocus: false,
        networkMode: "always",
      },
    },
  });

interface Question {
  address: string;
  /** Sent as JSON, by POST; fetched by GET where left out. */
  body?: unknown;
  /** What is asked about: while that stays, the answer of before is shown until the new one is here. */
  about?: string;
  /** Whatever else the answer follows from, such as the revision of the plan. */
  of?: readonly unknown[];
}

interface AnswerState<Answer> {
  answer: Answer | null;
  failed: string | null;
  /** The answer to a newer question is on its way. */
  isStale: boolean;
}

interface AnswerOptions {
  /** How long a question must have stood before it is sent, ms. */
  restMs?: number;
  /** Asked again each time it is looked at: the answer follows from more than its question. */
  isFresh?: boolean;
}

/** Asks the server, again whenever the question changes; null asks nothing. */
export function useAnswer<Answer>(
  question: Question | null,
  { restMs = 0, isFresh = false }: AnswerOptions = {},
): AnswerState<Answer> {
  const text = question && JSON.stringify(question);
  const rested = useResting(text, restMs, text === null);
  const about = question?.about ?? question?.address ?? "";
  const { data, error, isPlaceholderData, isFetching } = useQuery<Answer>({
    queryKey: ["answer", about, rested],
    enabled: rested !== null,
    ...(isFresh ? { staleTime: 0, gcTime: 0 } : {}),
    placeholderData: (before, query) => (query?.queryKey[1] === about ? before : undefined),
    queryFn: ({ signal }) => {
      const { address, body } = JSON.parse(rested!) as Question;
      return requestJson<Answer>(address, { body, signal });
    },
  });
  return {
    answer: text === null ? null : (data ?? null),
    failed: text === null || isFetching ? null : (error?.message ?? null),
    isStale: isPlaceholderData || rested !== text,
  };
}
