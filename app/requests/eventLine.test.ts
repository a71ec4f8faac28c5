import { expect, test } from "@jest/globals";
import { eventLine } from "./eventLine";

/** A line with its teller in hand, and how often it was ended. */
function lineOf(signal = new AbortController().signal, begun: Promise<void> = Promise.resolve()) {
  const known = { tell: ((): void => undefined) as (data: string) => void, ends: 0 };
  const line = eventLine(async (tell) => {
    known.tell = tell;
    await begun;
    return () => void known.ends++;
  }, signal);
  return { known, line };
}
const read = async (reader: ReadableStreamDefaultReader<Uint8Array>) =>
  new TextDecoder().decode((await reader.read()).value);
const settled = () => new Promise((resolve) => setTimeout(resolve, 5));

test("what is told is sent, one event after another", async () => {
  const { known, line } = lineOf();
  const reader = line.getReader();
  expect(await read(reader)).toBe("retry: 2000\n\n");
  known.tell("7");
  expect(await read(reader)).toBe("data: 7\n\n");
  await reader.cancel();
  expect(known.ends).toBe(1);
});

test("what is told after the window has gone harms nobody", async () => {
  const { known, line } = lineOf();
  const reader = line.getReader();
  await read(reader);
  await settled();
  await reader.cancel();
  expect(() => known.tell("8")).not.toThrow();
  const stop = new AbortController();
  const other = lineOf(stop.signal);
  await settled();
  stop.abort();
  expect(() => other.known.tell("9")).not.toThrow();
  expect(other.known.ends).toBe(1);
  // What was sent before it went is still read, then the line is at its end.
  const rest = other.line.getReader();
  expect(await read(rest)).toBe("retry: 2000\n\n");
  expect((await rest.read()).done).toBe(true);
});

test("a window that goes while the listening begins is listened for no longer", async () => {
  let begin: () => void = () => undefined;
  const begun = new Promise<void>((resolve) => (begin = resolve));
  const { known, line } = lineOf(undefined, begun);
  await line.cancel();
  expect(known.ends).toBe(0);
  begin();
  await settled();
  expect(known.ends).toBe(1);
  const gone = new AbortController();
  gone.abort();
  const never = lineOf(gone.signal);
  expect((await never.line.getReader().read()).done).toBe(true);
});

test("the line ends when whoever listens may do so no longer, and when that cannot be asked", async () => {
  for (const answer of [() => Promise.resolve(false), () => Promise.reject(new Error("no database"))]) {
    let ends = 0;
    let may: () => Promise<boolean> = () => Promise.resolve(true);
    const listen = () => Promise.resolve(() => void ends++);
    const reader = eventLine(listen, new AbortController().signal, () => may(), 5).getReader();
    await read(reader);
    await settled();
    await settled();
    expect(ends).toBe(0);
    may = answer;
    expect((await reader.read()).done).toBe(true);
    expect(ends).toBe(1);
  }
});
