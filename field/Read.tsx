import { commonChains } from "#core/link";
import { readAt, readingOfNotes, ticked, type ReadKey } from "#core/crews";
import { judge, type Verdict } from "#core/proof";
import { figure, listed, plainFigure } from "#core/words";
import { PingError, readPing } from "#formats/ping";
import { useState } from "react";
import { acceptText } from "../app/shared/acceptText";
import { readIperfFiles, type IperfFound } from "../app/shared/iperfFiles";
import type { Here } from "./here";
import { Big, Box, FilePick } from "./parts";
import { useField } from "./useField";
import { useTyped } from "./useTyped";

type FigureKey = Exclude<ReadKey, "modulation" | "ping">;
const BOUNDS: Record<FigureKey, [low: number, high: number]> = {
  chain0: [-120, 10],
  chain1: [-120, 10],
  chain2: [-120, 10],
  chain3: [-120, 10],
  noise: [-120, 10],
  down: [0, 100_000],
  up: [0, 100_000],
};

const CHAIN_KEYS = ["chain0", "chain1", "chain2", "chain3"] as const;
const CHAIN_WORDS = ["First chain", "Second chain", "Third chain", "Fourth chain"] as const;
/** The chains that were read at an end, in words: "−52.1 and −52.4 dBm". */
const chainsText = (read: ReturnType<typeof readAt>): string =>
  `${listed(CHAIN_KEYS.flatMap((key) => (read[key] ? [valueOf(read[key])] : [])))} dBm`;

/** The final reading of this end, judged on the phone as at the desk once both ends have theirs. */
export function Read({ pack, side, here, there, notes }: Here) {
  const field = useField();
  const [typedText, setTypedText] = useTyped({ pack, side }, "reading", "{}");
  const typed = JSON.parse(typedText) as Partial<Record<FigureKey, string>>;
  const setTyped = (next: typeof typed) => setTypedText(JSON.stringify(next));
  const [wrong, setWrong] = useState("");
  const { a, b } = pack.ends!;
  const chains = commonChains(a.end, b.end);
  const mine = readAt(notes, side);
  const theirs = readAt(notes, side === "a" ? "b" : "a");
  const { sheet } = here;
  const labels: [FigureKey, string, string][] = [
    ...CHAIN_KEYS.slice(0, chains).map((key, i): [FigureKey, string, string] => [
      key,
      chains > 1 ? CHAIN_WORDS[i]! : "Level",
      "dBm",
    ]),
    ["noise", "Noise", "dBm"],
    ["down", `Toward ${b.sheet.placeName}`, "Mbit/s"],
    ["up", `Toward ${a.sheet.placeName}`, "Mbit/s"],
  ];
  const keep = async () => {
    const written: [FigureKey, number][] = [];
    for (const [key, label] of labels) {
      const text = typed[key]?.trim() ?? "";
      if (text === "") continue;
      const value = Number(plainFigure(text));
      const [low, high] = BOUNDS[key];
      if (!Number.isFinite(value)) return setWrong(`${label}: “${text}” is not a number.`);
      if (value < low || value > high) return setWrong(`${label}: ${text} is not between ${low} and ${high}.`);
      written.push([key, value]);
    }
    if (written.length === 0) return setWrong("Nothing was typed.");
    setWrong("");
    // One reading is written whole: a phone that dies meanwhile has all of its figures or none.
    const drafts = written.map(([key, value]) => {
      const isRate = key === "down" || key === "up";
      return { side, kind: "read" as const, key, value: isRate ? value : null, levelDbm: isRate ? null : value };
    });
    await field.note(pack, ...drafts);
    setTyped({});
  };
  const reading = readingOfNotes(pack.visit, pack.promised, notes);
  const isDone = ticked(notes, side, "done").size > 0;
  return (
    <section aria-label="Read">
      <p>
        Expect <strong className="figures">{figure(sheet.expectedChainDbm)} dBm</strong> on {sheet.chain}; accepted{" "}
        {acceptText(sheet.accept)} dBm. Read it after locking.
      </p>
      <div className="mt-2 grid grid-cols-2 gap-2">
        {labels.map(([key, label, unit]) => (
          <Box
            key={key}
            label={label}
            unit={unit}
            inputMode="text"
            value={typed[key] ?? ""}
            onChange={({ target }) => setTyped({ ...typed, [key]: target.value })}
          />
        ))}
      </div>
      <IperfFile
        side={side}
        onFound={({ downMbps, upMbps }) =>
          setTyped({
            ...typed,
            ...(downMbps === null ? {} : { down: figure(downMbps) }),
            ...(upMbps === null ? {} : { up: figure(upMbps) }),
          })
        }
      />
      {wrong && (
        <p role="alert" className="font-semibold text-blocked">
          {wrong}
        </p>
      )}
      <Big look="primary" className="mt-2 w-full" onClick={() => void keep()}>
        Keep this reading
      </Big>
      <div className="mt-3">
        {mine.chain0?.levelDbm != null && (
          <p>
            Here: {chainsText(mine)}: <strong>{withinWords(mine.chain0.levelDbm, sheet.accept)}</strong>
          </p>
        )}
        <p>
          {there.sheet.placeName}: {theirs.chain0 ? chainsText(theirs) : "nothing from there yet"}
        </p>
        {reading ? (
          <Judged verdict={judge(pack.plan, a.end, b.end, reading)} />
        ) : (
          <p className="text-sm text-quiet">Judged as soon as both ends have read their level.</p>
        )}
      </div>
      <InWords pack={pack} side={side} notes={notes} />
      <Signature pack={pack} side={side} notes={notes} />
      <Big
        className="mt-3 w-full"
        look={isDone ? "plain" : "primary"}
        onClick={() => void field.note(pack, { side, kind: "done", isOn: !isDone })}
      >
        {isDone ? "Not done after all" : "Done at this end"}
      </Big>
    </section>
  );
}

const valueOf = (note: { value: number | null; levelDbm: number | null } | undefined): string => {
  const value = note?.levelDbm ?? note?.value;
  return value == null ? "" : figure(value);
};

function withinWords(level: number, { fromDbm, toDbm }: { fromDbm: number; toDbm: number }): string {
  if (level < fromDbm) return `${figure(fromDbm - level)} dB too weak; a lobe beside the main one looks like this`;
  if (level > toDbm) return `${figure(level - toDbm)} dB stronger than accepted`;
  return "within the band";
}

const STATES = { proven: "✓ Proven", doubtful: "? Doubtful", failed: "✕ Failed" } as const;

function Judged({ verdict }: { verdict: Verdict }) {
  return (
    <div className="mt-2 rounded-lg border-2 border-rule p-3" role="status">
      <p className="text-lg font-semibold">{STATES[verdict.state]}</p>
      {verdict.summary && <p>{verdict.summary}</p>}
      {verdict.need && <p className="text-sm">{verdict.need.text}.</p>}
      <ol className="list-decimal pl-5">
        {verdict.causes.map((cause) => (
          <li key={cause.kind}>
            <strong>{cause.title}.</strong> {cause.reason}. {cause.next}
          </li>
        ))}
      </ol>
    </div>
  );
}

/** The modulation that the radio names, and what ping printed. */
function InWords({ pack, side, notes }: Pick<Here, "pack" | "side" | "notes">) {
  const field = useField();
  const [modulation, setModulation] = useTyped({ pack, side }, "modulation");
  const [problem, setProblem] = useState("");
  const mine = readAt(notes, side);
  const ping = async (file: File | undefined) => {
    if (!file) return;
    try {
      const { sent, lostPercent, meanMs, mostMs } = readPing(await file.text());
      const trips = meanMs === null ? "" : `, ${figure(meanMs)} ms on average, ${figure(mostMs!)} at most`;
      setProblem("");
      await field.note(pack, {
        ...{ side, kind: "read", key: "ping" },
        text: `${sent} sent, ${figure(lostPercent)} % lost${trips}`,
      });
    } catch (error) {
      if (!(error instanceof PingError)) throw error;
      setProblem(`${file.name}: ${error.told}`);
    }
  };
  return (
    <div className="mt-3">
      <div className="flex items-end gap-2">
        <Box
          isText
          label={mine.modulation ? `Modulation, ${mine.modulation.text} so far` : "Modulation, as the radio names it"}
          maxLength={60}
          value={modulation}
          onChange={({ target }) => setModulation(target.value)}
        />
        <Big
          disabled={modulation.trim() === ""}
          onClick={() => {
            void field.note(pack, { side, kind: "read", key: "modulation", text: modulation.trim() });
            setModulation("");
          }}
        >
          Keep
        </Big>
      </div>
      <FilePick label="A series of pings, as text" accept=".txt,text/plain" onPick={(files) => void ping(files[0])} />
      {mine.ping && <p className="text-sm">{mine.ping.text}</p>}
      {problem && (
        <p role="alert" className="font-semibold text-blocked">
          {problem}
        </p>
      )}
    </div>
  );
}

/** The customer's word that the work was shown to him. */
function Signature({ pack, side, notes }: Pick<Here, "pack" | "side" | "notes">) {
  const field = useField();
  const [name, setName] = useTyped({ pack, side }, "signature");
  const signed = ticked(notes, side, "signed").get("");
  if (signed) return <p className="mt-3">Shown to and signed by {signed.text}.</p>;
  return (
    <div className="mt-3 flex items-end gap-2">
      <Box
        label="Customer or owner, who was shown it"
        isText
        value={name}
        onChange={({ target }) => setName(target.value)}
      />
      <Big
        disabled={name.trim() === ""}
        onClick={() => {
          void field.note(pack, { side, kind: "signed", text: name.trim() });
          setName("");
        }}
      >
        Sign
      </Big>
    </div>
  );
}

/** Throughput from the files of iperf3, begun at this end. */
function IperfFile({ side, onFound }: { side: "a" | "b"; onFound: (found: IperfFound) => void }) {
  const [found, setFound] = useState<IperfFound | null>(null);
  const read = async (files: File[]) => {
    const next = await readIperfFiles(files, side);
    setFound(next);
    onFound(next);
  };
  return (
    <div className="mt-2">
      <FilePick
        label="Throughput from iperf3 files, begun here"
        accept=".json,application/json"
        isMany
        onPick={(files) => void read(files)}
      />
      {found?.said.map((line) => (
        <p key={line} className="text-sm">
          {line}
        </p>
      ))}
      {found?.problem && (
        <p role="alert" className="font-semibold text-blocked">
          {found.problem}
        </p>
      )}
    </div>
  );
}
