import { fitSweep, type SweepPoint, type SweptAntenna } from "#core/aiming";
import { aimTurns, inOrder, type AimAxis, type FieldNote } from "#core/crews";
import { figure, plainFigure } from "#core/words";
import { useState } from "react";
import { acceptText } from "../app/shared/acceptText";
import { adviceOf } from "./advice";
import { Bearings } from "./Bearings";
import { Camera } from "./Camera";
import { Compass } from "./Compass";
import type { Here } from "./here";
import { Big, Box, Fact, OneOf } from "./parts";
import { SweepDrawing } from "./SweepDrawing";
import { useField } from "./useField";
import { useTyped } from "./useTyped";

/** A sweep begins anew where somebody says so, and with each axis. */
function sweepOf(notes: readonly FieldNote[], side: "a" | "b", axis: AimAxis): SweepPoint[] {
  const levels = inOrder(notes).filter((note) => note.side === side && note.kind === "level" && note.key === axis);
  const begun = levels.findLastIndex(({ isOn }) => !isOn);
  return levels
    .slice(begun + 1)
    .flatMap(({ value, levelDbm }) => (value === null || levelDbm === null ? [] : [{ angleDeg: value, levelDbm }]));
}

/** Where to look, a log of levels against angle, and what the pattern in them says. */
export function Aim({ pack, side, here, there, notes }: Here) {
  const field = useField();
  const [axis, setAxis] = useState<AimAxis>("azimuth");
  const { sheet, end } = here;
  const points = sweepOf(notes, side, axis);
  const swept: SweptAntenna = { antenna: end.antenna, polarization: end.radio.polarization, axis };
  const fit = fitSweep(swept, points, sheet.expectedChainDbm);
  const turns = aimTurns(notes);
  const next = turns.find((turn) => !turn.isLocked);
  const isLocked = turns.find((turn) => turn.side === side && turn.axis === axis)!.isLocked;
  return (
    <section aria-label="Aim">
      <dl className="grid grid-cols-2 gap-x-4">
        <Fact
          label="Heading, compass"
          note={
            sheet.declinationDeg === null
              ? "no magnetic model for this date"
              : `declination ${figure(Math.abs(sheet.declinationDeg))}° ${sheet.declinationDeg < 0 ? "W" : "E"}`
          }
        >
          {sheet.headingMagneticDeg === null ? "–" : `${figure(sheet.headingMagneticDeg)}°`}
        </Fact>
        <Fact label="Heading, true" note={`sweep at least ±${sheet.sweepDeg}°`}>
          {figure(sheet.headingTrueDeg)}°
        </Fact>
        <Fact label="Tilt of the bracket">
          {figure(Math.abs(sheet.tiltDownDeg))}° {sheet.tiltDownDeg >= 0 ? "down" : "up"}
        </Fact>
        <Fact label={`Expect on ${sheet.chain}`} note={`accept ${acceptText(sheet.accept)} dBm`}>
          {figure(sheet.expectedChainDbm)} dBm
        </Fact>
        {sheet.meterVolts && (
          <Fact label="Meter" note={`${sheet.meterVolts.stronger} volts are more signal`}>
            {figure(sheet.meterVolts.low, 2)} to {figure(sheet.meterVolts.high, 2)} V
          </Fact>
        )}
      </dl>
      <Compass sheet={sheet} />
      <Camera here={here} there={there} distanceM={pack.distanceM} />
      <Bearings here={here} there={there} distanceM={pack.distanceM} />
      <a
        href={`#/job/${encodeURIComponent(pack.planId)}/${encodeURIComponent(pack.visit.id)}/${side}/practise`}
        className="mt-2 inline-flex min-h-12 items-center underline"
      >
        Practise this aim on the ground
      </a>
      <p className="mt-2 text-sm">
        One end at a time: while you turn, {there.sheet.placeName} stands still. Turn through the peak and past it.
      </p>
      <ol aria-label="Turns" className="mt-1 text-sm">
        {turns.map((turn, i) => (
          <li key={`${turn.axis} ${turn.side}`} className={turn === next ? "font-semibold" : ""}>
            {turn.isLocked ? "✓" : turn === next ? "▸" : "○"} {i + 1}. {turn.axis} at{" "}
            {turn.side === side ? "this end" : there.sheet.placeName}
            {turn.isLocked && ", locked"}
          </li>
        ))}
      </ol>
      <p className="text-sm text-quiet">The other end as far as this phone has heard of it.</p>
      <OneOf
        label="What is turned"
        options={{ azimuth: "Azimuth", elevation: "Elevation" }}
        chosen={axis}
        onChoose={setAxis}
      />
      <LevelEntry
        key={axis}
        {...{ pack, side, axis }}
        perDbm={end.model.meterVoltsPerDbm}
        expectedDbm={sheet.expectedChainDbm}
        last={points.at(-1) ?? null}
        onLog={(angleDeg, levelDbm) =>
          void field.note(pack, { side, kind: "level", key: axis, value: angleDeg, levelDbm })
        }
      />
      <p role="status" className="mt-2 text-lg font-semibold">
        {adviceOf(axis, points, fit, sheet)}
      </p>
      {points.length > 0 && <SweepDrawing swept={swept} points={points} fit={fit} accept={sheet.accept} />}
      <div className="mt-2 flex gap-2">
        <Big
          className="flex-1"
          disabled={points.length === 0}
          onClick={() => void field.note(pack, { side, kind: "level", key: axis, isOn: false })}
        >
          Sweep anew
        </Big>
        <Big
          className="flex-1"
          look={isLocked ? "primary" : "plain"}
          aria-pressed={isLocked}
          onClick={() => void field.note(pack, { side, kind: "locked", key: axis, isOn: !isLocked })}
        >
          {isLocked ? `${axis === "azimuth" ? "Azimuth" : "Elevation"} is locked` : `Lock ${axis}`}
        </Big>
      </div>
      {isLocked && <p className="mt-2 font-semibold">Locking moves it: read the level again, under “Read”.</p>}
    </section>
  );
}

/** How a level is read, with the sign beside the box. */
const UNITS = { dBm: "dBm", volts: "V", LEDs: "lit" } as const;
/** What one LED more stands for where no sheet says, dB. */
const LED_DB = 6;

/** An angle of the bracket's scale and the level there, in dBm or in volts as the meter shows them. */
function LevelEntry({
  pack,
  side,
  axis,
  perDbm,
  expectedDbm,
  last,
  onLog,
}: Pick<Here, "pack" | "side"> & {
  axis: AimAxis;
  perDbm: number | null;
  /** On the chain that is read: where every LED is lit. */
  expectedDbm: number;
  last: SweepPoint | null;
  onLog: (angleDeg: number, levelDbm: number) => void;
}) {
  const [unit, setUnit] = useState<keyof typeof UNITS>(perDbm !== null ? "volts" : "dBm");
  const [leds, setLeds] = useState("4");
  const [angle, setAngle] = useTyped({ pack, side }, `${axis} angle`, last ? figure(last.angleDeg) : "0");
  const [level, setLevel] = useTyped({ pack, side }, `${axis} level`);
  const angleDeg = Number(plainFigure(angle));
  const read = level.trim() === "" ? NaN : Number(plainFigure(level));
  const dark = Number(leds) - read;
  const levelDbm =
    unit === "volts" && perDbm !== null ? read / perDbm : unit === "LEDs" ? expectedDbm - dark * LED_DB : read;
  const isLit = unit !== "LEDs" || (Number.isInteger(read) && read >= 0 && dark >= 0);
  const isFine = Number.isFinite(angleDeg) && Math.abs(angleDeg) <= 360 && isLit && levelDbm >= -140 && levelDbm <= 20;
  const nudge = (by: number) => setAngle(figure(angleDeg + by));
  return (
    <form
      className="mt-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (!isFine) return;
        onLog(angleDeg, Math.round(levelDbm * 10) / 10);
        setLevel("");
      }}
    >
      <div className="flex items-end gap-2">
        <Big aria-label="Scale half a degree less" onClick={() => nudge(-0.5)}>
          −½°
        </Big>
        <Box
          label="On the scale"
          unit="°"
          inputMode="text"
          value={angle}
          onChange={({ target }) => setAngle(target.value)}
        />
        <Big aria-label="Scale half a degree more" onClick={() => nudge(0.5)}>
          +½°
        </Big>
      </div>
      <div className="mt-2 flex items-end gap-2">
        <Box
          label="Reads"
          unit={UNITS[unit]}
          inputMode="text"
          value={level}
          onChange={({ target }) => setLevel(target.value)}
        />
        {unit === "LEDs" && (
          <Box label="LEDs it has" inputMode="numeric" value={leds} onChange={({ target }) => setLeds(target.value)} />
        )}
        <Big type="submit" look="primary" disabled={!isFine}>
          Log it
        </Big>
      </div>
      <div className="mt-2 flex gap-2">
        {(Object.keys(UNITS) as (keyof typeof UNITS)[])
          .filter((one) => one !== unit && (one !== "volts" || perDbm !== null))
          .map((one) => (
            <Big key={one} className="flex-1" onClick={() => setUnit(one)}>
              in {one}
            </Big>
          ))}
      </div>
      {unit === "LEDs" && (
        <p className="text-sm text-quiet">
          LEDs are coarse: each is taken for {LED_DB} dB under what is expected. Find where the last one goes out on
          either side, and stand in the middle.
        </p>
      )}
      {unit === "volts" && Number.isFinite(levelDbm) && (
        <p className="text-sm text-quiet">That is {figure(levelDbm)} dBm.</p>
      )}
    </form>
  );
}
