/** Something is sent now and then, so that nobody in between takes the line for dead. */
const ALIVE_MS = 25_000;
/** How often it is asked whether the window may still listen, ms. */
const ASK_MS = 5_000;

/**
 * A line of server-sent events that stays open until the window goes. `listen` begins to tell what comes, each word as it is to be sent, and
 * hands back what ends it; the line ends when `mayListen` says no. A window may go while that still begins, and something may be told after it has gone: neither is an error.
 */
export function eventLine(
  listen: (tell: (data: string) => void) => Promise<() => void>,
  signal: AbortSignal,
  mayListen: () => Promise<boolean> = () => Promise.resolve(true),
  askMs = ASK_MS,
): ReadableStream<Uint8Array> {
  const text = new TextEncoder();
  let isOpen = true;
  let stop: () => void = () => undefined;
  const end = () => {
    isOpen = false;
    stop();
    stop = () => undefined;
  };
  return new ReadableStream<Uint8Array>({
    async start(line) {
      const say = (words: string) => isOpen && line.enqueue(text.encode(words));
      const onAbort = () => {
        if (!isOpen) return;
        end();
        line.close();
      };
      if (signal.aborted) return onAbort();
      signal.addEventListener("abort", onAbort);
      say("retry: 2000\n\n");
      const stopListening = await listen((data) => say(`data: ${data}\n\n`));
      const alive = setInterval(() => say(": here\n\n"), ALIVE_MS);
      const asking = setInterval(() => void mayListen().then((may) => may || onAbort(), onAbort), askMs);
      stop = () => {
        clearInterval(alive);
        clearInterval(asking);
        signal.removeEventListener("abort", onAbort);
        stopListening();
      };
      if (!isOpen) end();
    },
    cancel: end,
  });
}
