/** What is said where the server does not answer at all. */
export const NOT_ANSWERING = "Tejado does not answer. Try again.";

/** The words in which the server says why it refuses, as text or as JSON. */
export async function wordsOf(response: Response): Promise<string> {
  const text = await response.text();
  try {
    const value: unknown = JSON.parse(text);
    if (typeof value === "string") return value;
    const { message } = (value ?? {}) as { message?: unknown };
    return typeof message === "string" ? message : text;
  } catch {
    return text;
  }
}

/** The server refused, or did not answer: then the status is 503. */
export class Refused extends Error {
  constructor(
    message: string,
    readonly status: number,
    options?: ErrorOptions,
  ) {
    super(message, options);
  }
}

interface RequestOptions {
  /** Sent as JSON, by POST. */
  body?: unknown;
  /** Sent as it is, by POST. */
  form?: FormData;
  /** Sent by POST without anything in it. */
  isPost?: boolean;
  signal?: AbortSignal | undefined;
  headers?: Record<string, string>;
}

/**
 * Sends a request to the server. Throws Refused with words to show: the server's own where it refuses, NOT_ANSWERING where it does not
 * answer. A request that was given up throws its signal's reason.
 */
export async function request(address: string, options: RequestOptions = {}): Promise<Response> {
  const { body, form, isPost, signal, headers = {} } = options;
  const sent =
    body !== undefined
      ? { method: "POST", body: JSON.stringify(body), headers: { "Content-Type": "application/json", ...headers } }
      : { headers, ...(form || isPost ? { method: "POST" } : {}), ...(form ? { body: form } : {}) };
  const response = await fetch(address, { ...sent, ...(signal ? { signal } : {}) }).catch((error: unknown) => {
    signal?.throwIfAborted();
    throw new Refused(NOT_ANSWERING, 503, { cause: error });
  });
  if (!response.ok && response.status !== 304) throw new Refused(await wordsOf(response), response.status);
  return response;
}

/** The same with an answer in JSON. */
export const requestJson = async <Answer>(address: string, options?: RequestOptions): Promise<Answer> =>
  (await request(address, options)).json() as Promise<Answer>;
