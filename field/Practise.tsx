import {
  beginPractice,
  lampsAt,
  LESSONS,
  levelAtPeak,
  lock,
  randomAt,
  readMeter,
  scoreOf,
  turn,
  type Lesson,
  type Practice,
  type PracticeLink,
} from "#core/aiming";
import { beamwidthDeg } from "#core/antenna";
import type { EndSide } from "#core/crews";
import { figure } from "#core/words";
import { useState } from "react";
import type { Here } from "./here";
import { Big, OneOf } from "./parts";
import { SweepDrawing } from "./SweepDrawing";

const CAUSES: Record<Lesson, string> = {
  plain: "Nothing but the aim",
  sideLobe: "This end began on a lobe beside the main one",
  crossed: "Polarization crossed",
  chainDead: "One chain is dead",
  farOff: "The far end began on a lobe beside its main one",
  film: "The film was still on",
};
const MOST_SWEPT = 60;

interface Lessoned {
  practice: Practice;
  begunAt: number;
  shown: Record<EndSide, number | null>;
  /** Whether the level of an end was read after it was locked. */
  readAgain: Record<EndSide, boolean>;
}

/** This very link, its antennas and its meter, to be aimed without anybody on a mast. */
export function Practise({ pack, side }: Here) {
  const { a, b } = pack.ends!;
  const link: PracticeLink = {
    a: a.end,
    b: b.end,
    expectedDbm: { a: a.sheet.expectedChainDbm, b: b.sheet.expectedChainDbm },
  };
  const [lesson, setLesson] = useState<Lessoned | null>(null);
  const [at, setAt] = useState<EndSide>(side);
  const [named, setNamed] = useState<Lesson | null>(null);
  const [endedAt, setEndedAt] = useState(0);
  const begin = (which: Lesson | "any") => {
    const seed = Date.now() % 1_000_000;
    const chosen = which === "any" ? LESSONS[Math.floor(randomAt(seed) * LESSONS.length)]! : which;
    const nothing = { a: null, b: null };
    setLesson({
      practice: beginPractice(link, chosen, seed),
      begunAt: Date.now(),
      shown: nothing,
      readAgain: { a: false, b: false },
    });
    setNamed(null);
    setAt(side);
  };
  if (!lesson)
    return (
      <section aria-label="Practise">
        <h2 className="text-lg font-semibold">Practise this aim</h2>
        <p>
          Both ends stand as a compass leaves them. Turn them by their bolts, one at a time, until the level is what the
          plan says; find out what else is wrong. Nothing of it goes to the desk.
        </p>
        <Big look="primary" className="mt-3 w-full" onClick={() => begin("any")}>
          Begin, with something hidden
        </Big>
        <Big className="mt-2 w-full" onClick={() => begin("plain")}>
          Begin with nothing but the aim
        </Big>
        <Big className="mt-2 w-full" onClick={() => begin("sideLobe")}>
          Begin on a lobe beside the main one
        </Big>
      </section>
    );
  const { practice, shown, readAgain } = lesson;
  const mount = practice.mounts[at];
  const sheet = pack.ends![at].sheet;
  const { antenna } = link[at];
  const step = Math.max(0.1, Math.round(beamwidthDeg(antenna.azimuthCuts.V, 3)) / 10);
  const look = (now: Practice): void => {
    const read = readMeter(link, now, at);
    setLesson({
      ...lesson,
      practice: read.practice,
      shown: { ...shown, [at]: read.levelDbm },
      readAgain: { ...readAgain, [at]: now.mounts[at].isLocked },
    });
  };
  const go = (axis: "azimuth" | "elevation", by: number) => look(turn(link, practice, at, axis, by));
  if (named !== null) {
    const seconds = (endedAt - lesson.begunAt) / 1000;
    return (
      <Scored
        {...{ link, practice, named, seconds }}
        readAgain={readAgain.a && readAgain.b}
        onAgain={() => setLesson(null)}
        accept={sheet.accept}
      />
    );
  }
  return (
    <section aria-label="Practise">
      <OneOf
        label="Which end is turned"
        options={{ a: a.sheet.placeName, b: b.sheet.placeName }}
        chosen={at}
        onChoose={setAt}
      />
      <Meter level={shown[at]} perDbm={link[at].model.meterVoltsPerDbm} />
      <p className="text-center text-sm">
        {sheet.meterVolts
          ? `Expect ${figure(sheet.meterVolts.expected, 2)} V, ${sheet.meterVolts.stronger} is stronger: ${figure(sheet.expectedChainDbm)} dBm`
          : `Expect ${figure(sheet.expectedChainDbm)} dBm`}
        ; accepted from {figure(sheet.accept.fromDbm)} dBm
      </p>
      <div className="mx-auto mt-2 grid max-w-xs grid-cols-3 gap-2">
        <span />
        <Big aria-label="Tilt up" disabled={mount.isLocked} onClick={() => go("elevation", -step)}>
          ▲
        </Big>
        <span />
        <Big aria-label="Turn left" disabled={mount.isLocked} onClick={() => go("azimuth", -step)}>
          ◀
        </Big>
        <Big onClick={() => look(practice)}>Read</Big>
        <Big aria-label="Turn right" disabled={mount.isLocked} onClick={() => go("azimuth", step)}>
          ▶
        </Big>
        <Big aria-label="Turn left, far" disabled={mount.isLocked} onClick={() => go("azimuth", -5 * step)}>
          ◀◀
        </Big>
        <Big aria-label="Tilt down" disabled={mount.isLocked} onClick={() => go("elevation", step)}>
          ▼
        </Big>
        <Big aria-label="Turn right, far" disabled={mount.isLocked} onClick={() => go("azimuth", 5 * step)}>
          ▶▶
        </Big>
      </div>
      <div className="mt-2 flex gap-2">
        <Big
          className="flex-1"
          look={mount.isLocked ? "primary" : "plain"}
          onClick={() =>
            setLesson({
              ...lesson,
              practice: lock(link, practice, at, !mount.isLocked),
              readAgain: { ...readAgain, [at]: false },
            })
          }
        >
          {mount.isLocked ? "Locked; free it" : "Lock this end"}
        </Big>
        <Big
          className="flex-1"
          disabled={practice.isFilmOff && practice.lesson === "film"}
          onClick={() => look({ ...practice, isFilmOff: true })}
        >
          Take the film off
        </Big>
      </div>
      <h2 className="mt-4 font-semibold">Done? Say what was wrong:</h2>
      <div className="mt-1 grid gap-2">
        {LESSONS.map((one) => (
          <Big
            key={one}
            onClick={() => {
              setEndedAt(Date.now());
              setNamed(one);
            }}
          >
            {CAUSES[one]}
          </Big>
        ))}
      </div>
    </section>
  );
}

/** What the radio shows: volts on its jack, or lamps and dBm where it has none. */
function Meter({ level, perDbm }: { level: number | null; perDbm: number | null }) {
  if (level === null) return <p className="my-3 text-center text-lg">Read the meter first.</p>;
  const lamps = lampsAt(level);
  return (
    <p role="status" className="figures my-3 text-center text-4xl font-semibold">
      {perDbm === null ? `${figure(level)} dBm` : `${figure(level * perDbm, 2)} V`}
      <span className="block text-base" aria-label={`${lamps} of 5 lamps`}>
        {"●".repeat(lamps)}
        {"○".repeat(5 - lamps)}
      </span>
    </p>
  );
}

/** What a lesson came to, and where the dish of one end went in its pattern. */
function Scored({
  link,
  practice,
  named,
  seconds,
  readAgain,
  onAgain,
  accept,
}: {
  link: PracticeLink;
  practice: Practice;
  named: Lesson;
  seconds: number;
  readAgain: boolean;
  onAgain: () => void;
  accept: { fromDbm: number; toDbm: number; endsAtOverload: boolean };
}) {
  const score = scoreOf(link, practice, { seconds, named, readAgain });
  return (
    <section aria-label="What it came to">
      <p className="text-3xl font-semibold">{score.points} of 100</p>
      <ul className="list-disc pl-5">
        <li>{figure(score.leftDb)} dB are left by the aim and the film</li>
        <li>
          {score.turns} turns in {figure(seconds, 0)} s
        </li>
        <li>
          It was: {CAUSES[practice.lesson].toLowerCase()}.{" "}
          {score.isCauseNamed ? "You named it." : `You said: ${CAUSES[named].toLowerCase()}.`}
        </li>
        <li>
          {score.isReadAgain
            ? "Both ends were locked and read again."
            : "Lock both ends, and read each again after it."}
        </li>
      </ul>
      {(["a", "b"] as const).map((side) => {
        const points = practice.log
          .filter((one) => one.side === side)
          .slice(-MOST_SWEPT)
          .map(({ azimuthDeg, levelDbm }) => ({ angleDeg: azimuthDeg, levelDbm }));
        if (points.length < 2) return null;
        const swept = {
          antenna: link[side].antenna,
          polarization: link[side].radio.polarization,
          axis: "azimuth" as const,
        };
        return (
          <div key={side}>
            <h3 className="mt-3 font-semibold">{link[side].placeName}, in azimuth: 0° is its far end</h3>
            <SweepDrawing
              swept={swept}
              points={points}
              fit={{ peakDeg: 0, peakDbm: levelAtPeak(swept, points, 0) }}
              patternWords="this antenna’s pattern, where it really stands"
              accept={accept}
            />
          </div>
        );
      })}
      <Big look="primary" className="mt-3 w-full" onClick={onAgain}>
        Once more
      </Big>
    </section>
  );
}
