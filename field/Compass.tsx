import type { CrewEnd } from "#core/install";
import { normalizeAzimuthDeg, signedAngleDeg } from "#core/geodesy";
import { figure } from "#core/words";
import { Big } from "./parts";
import { useHeld } from "./useHeld";

/** The phone as a rough compass and inclinometer, where it has one and lets it be read. It never stands for the sweep. */
export function Compass({ sheet }: { sheet: CrewEnd }) {
  const { held, begin } = useHeld();
  if (held === null)
    return (
      <Big className="mt-2 w-full" onClick={() => void begin()}>
        Point with this phone
      </Big>
    );
  if (held === "asking") return <p className="mt-2">Asking the phone…</p>;
  if (held === "none") return <p className="mt-2">This phone does not tell where it points: use a compass.</p>;
  // Lying flat or leant, its top edge points; leant back from upright it looks up.
  const [azimuthDeg, tiltDownDeg] = [normalizeAzimuthDeg(-held.alphaDeg), 90 - held.betaDeg];
  const turn = sheet.headingMagneticDeg === null ? null : signedAngleDeg(sheet.headingMagneticDeg - azimuthDeg);
  return (
    <p className="mt-2 rounded-lg border-2 border-rule p-2">
      <span className="figures text-xl font-semibold">{figure(azimuthDeg, 0)}°</span> by this phone, magnetic;{" "}
      {turn !== null && `${figure(Math.abs(turn), 0)}° to the ${turn < 0 ? "left" : "right"}`} · held{" "}
      {figure(Math.abs(tiltDownDeg), 0)}° {tiltDownDeg >= 0 ? "down" : "up"}
      <span className="block text-sm text-quiet">
        {held.errorDeg === null ? "Phones err by 5 to 15°" : `Its own word: ±${figure(held.errorDeg, 0)}°`}, more beside
        steel. Stand off the mast to read it.
      </span>
    </p>
  );
}
