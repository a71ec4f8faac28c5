import type { Remote } from "comlink";
import { threadClient } from "../threads";
import type { Answer, AskedWith, QuestionName } from "./thread/questions";
import type { EngineTasks } from "./thread/worker";

const HEAP_MB = 2000;

/** Told when the thread has ended: what it held is gone. */
const enders = new Set<() => void>();
export const onEngineEnd = (ended: () => void): void => void enders.add(ended);

/** The thread in which plans are kept warm. */
const engine = threadClient<EngineTasks>("plan", {
  heapMB: HEAP_MB,
  onEnd: () => enders.forEach((ended) => ended()),
});

/** Tells the engine something about a plan, before whatever is asked of it from now on. */
export function tellEngine(tell: (tasks: Remote<EngineTasks>) => Promise<void>): void {
  // An engine that ends over it is told of by `onEngineEnd`, and by whatever is asked next.
  engine.use(tell).catch(() => undefined);
}

/** Asks the engine a question of a plan that it holds. Throws ThreadEnded where it ends before it answered. */
export const askEngine = <N extends QuestionName>(key: string, name: N, asked: AskedWith<N>[0]): Promise<Answer<N>> =>
  engine.use(({ ask }) => ask(key, name, asked) as Promise<Answer<N>>);

/** Starts the engine ahead of the first question. */
export const warmEngine = (): void => engine.warm();

/** Ends the engine; the next question starts another. */
export const stopEngine = (): Promise<void> => engine.stop();
