import { cameraLooks, seenBy, type Direction, type Seen } from "#core/aiming";
import { signedAngleDeg, sunAt } from "#core/geodesy";
import { figure } from "#core/words";
import { useEffect, useRef, useState } from "react";
import type { FieldEnd } from "#wire";
import { Big } from "./parts";
import { useHeld } from "./useHeld";

/** What phones' main cameras see along the longer side of the picture, degrees: 60 to 75, so marks off the middle stand within some degrees. */
const USUAL_VIEW_DEG = 67;
const LOOK_MS = 15_000;
/** Lower than this the sun is not there to be seen. */
const LEAST_SUN_DEG = 2;

interface Target extends Direction {
  name: string;
}

/** The camera's picture with the far end, the sun and known sites drawn where they should stand. It finds a direction; it never stands for the sweep. */
export function Camera({ here, there, distanceM }: { here: FieldEnd; there: FieldEnd; distanceM: number }) {
  const [isOpen, setOpen] = useState(false);
  if (!isOpen)
    return (
      <Big className="mt-2 w-full" onClick={() => setOpen(true)}>
        Look through the camera
      </Big>
    );
  return <OpenCamera here={here} there={there} distanceM={distanceM} onClose={() => setOpen(false)} />;
}

function targetsOf(here: FieldEnd, there: FieldEnd, distanceM: number, now: Date): Target[] {
  const { sheet, line, landmarks } = here;
  const sun = sunAt(sheet.place, now);
  return [
    {
      name: `${there.sheet.placeName}, ${figure(distanceM / 1000)} km`,
      azimuthDeg: line?.bearingDeg ?? sheet.headingTrueDeg,
      upDeg: -(line?.tiltDownDeg ?? 0),
    },
    ...(sun.heightDeg > LEAST_SUN_DEG ? [{ name: "Sun", azimuthDeg: sun.azimuthDeg, upDeg: sun.heightDeg }] : []),
    ...landmarks
      .filter(({ name }) => name !== there.sheet.placeName)
      .map(({ name, bearingDeg }) => ({ name, azimuthDeg: bearingDeg, upDeg: 0 })),
  ];
}

function OpenCamera({
  here,
  there,
  distanceM,
  onClose,
}: {
  here: FieldEnd;
  there: FieldEnd;
  distanceM: number;
  onClose: () => void;
}) {
  const video = useRef<HTMLVideoElement>(null);
  const [problem, setProblem] = useState("");
  const [size, setSize] = useState({ width: 1, height: 1, videoWidth: 1, videoHeight: 1 });
  const [now, setNow] = useState(() => new Date());
  /** What is added to the phone's compass since the cross was put on something known, degrees; null until then. */
  const [offDeg, setOffDeg] = useState<number | null>(null);
  const { held, begin } = useHeld();
  useEffect(() => {
    void begin();
    const timer = setInterval(() => setNow(new Date()), LOOK_MS);
    return () => clearInterval(timer);
  }, [begin]);
  useEffect(() => {
    let stream: MediaStream | null = null;
    let isOver = false;
    const stop = () => stream?.getTracks().forEach((track) => track.stop());
    Promise.resolve()
      .then(() => navigator.mediaDevices.getUserMedia({ video: { facingMode: "environment" } }))
      .then((found) => {
        stream = found;
        if (isOver) return stop();
        video.current!.srcObject = found;
      })
      .catch(() => setProblem("The phone gives no camera to this page: allow it in the browser's settings."));
    return () => {
      isOver = true;
      stop();
    };
  }, []);
  const measure = () => {
    const { clientWidth, clientHeight, videoWidth, videoHeight } = video.current!;
    setSize({ width: clientWidth, height: clientHeight, videoWidth, videoHeight });
  };
  useEffect(() => {
    addEventListener("resize", measure);
    return () => removeEventListener("resize", measure);
  }, []);

  const isHeld = held !== null && typeof held === "object";
  const targets = targetsOf(here, there, distanceM, now);
  const declination = here.sheet.declinationDeg ?? 0;
  const turned = isHeld ? { ...held, alphaDeg: held.alphaDeg - (offDeg ?? declination) } : null;
  const seen =
    turned && targets.map((target) => ({ target, seen: seenBy(turned, target, screen.orientation?.angle ?? 0) }));
  // The picture fills its frame, so that it is cut at two sides.
  const scale = Math.max(size.width / size.videoWidth, size.height / size.videoHeight);
  const focalPx =
    (scale * Math.max(size.videoWidth, size.videoHeight)) / 2 / Math.tan((USUAL_VIEW_DEG / 2) * (Math.PI / 180));
  const putOn = ({ azimuthDeg }: Target) => {
    if (isHeld) setOffDeg(signedAngleDeg(azimuthDeg - cameraLooks(held).azimuthDeg));
  };
  return (
    <section aria-label="Camera" className="mt-2 rounded-lg border-2 border-rule p-2">
      <div className="relative h-[60vh] overflow-hidden rounded bg-black">
        <video
          ref={video}
          autoPlay
          playsInline
          muted
          className="h-full w-full object-cover"
          onLoadedMetadata={measure}
        />
        <svg aria-hidden="true" className="absolute inset-0 h-full w-full" viewBox={`0 0 ${size.width} ${size.height}`}>
          <path
            d={`M${size.width / 2 - 24} ${size.height / 2}h48M${size.width / 2} ${size.height / 2 - 24}v48`}
            stroke="white"
            strokeWidth="2"
          />
          {seen?.map(({ target, seen: { at } }, i) => {
            if (!at) return null;
            const [x, y] = [size.width / 2 + at.right * focalPx, size.height / 2 - at.up * focalPx];
            if (x < 0 || x > size.width || y < 0 || y > size.height) return null;
            return <MarkOn key={target.name} name={target.name} x={x} y={y} isFar={i === 0} isAbove={i % 2 === 1} />;
          })}
        </svg>
      </div>
      {problem && (
        <p role="alert" className="font-semibold text-blocked">
          {problem}
        </p>
      )}
      {held === "none" && <p>This phone does not tell where it points: use a compass.</p>}
      {held === "asking" && <p>Asking the phone where it points…</p>}
      {seen && (
        <p role="status" className="text-lg font-semibold">
          {turnWords(targets[0]!.name, seen[0]!.seen)}
        </p>
      )}
      {isHeld && (
        <>
          <p className="text-sm text-quiet">
            {offDeg === null
              ? `By the phone's compass alone, which errs by ${held.errorDeg === null ? "5 to 15°" : `${figure(held.errorDeg, 0)}° by its own word`}, more beside steel. Put the white cross on something below that you can see, and press its name. Look at the sun on this screen alone, never by eye.`
              : "Set by what the cross was put on; it drifts as the phone is moved about. The height comes from the phone's own level."}
          </p>
          <div className="mt-1 grid grid-cols-2 gap-2">
            {targets.slice(1, 7).map((target) => (
              <Big key={target.name} className="px-2 text-sm" onClick={() => putOn(target)}>
                The cross is on: {target.name}
              </Big>
            ))}
          </div>
        </>
      )}
      <Big className="mt-2 w-full" onClick={onClose}>
        Close the camera
      </Big>
    </section>
  );
}

/** A ring with its name, every second name above it: sites often stand close together. */
function MarkOn({
  name,
  x,
  y,
  isFar,
  isAbove,
}: {
  name: string;
  x: number;
  y: number;
  isFar: boolean;
  isAbove: boolean;
}) {
  return (
    <g data-mark={name} transform={`translate(${x} ${y})`} fill="none" stroke="white" strokeWidth={isFar ? 3 : 1.5}>
      <circle r={isFar ? 16 : 7} />
      {isFar && <circle r="3" fill="white" />}
      <text
        y={isFar ? 36 : isAbove ? -14 : 22}
        textAnchor="middle"
        fill="white"
        stroke="black"
        strokeWidth="3"
        paintOrder="stroke"
        className="text-sm font-semibold"
      >
        {name}
      </text>
    </g>
  );
}

/** Which way to turn to have something in the middle. */
function turnWords(name: string, { turnDeg, raiseDeg }: Seen): string {
  const side = `${figure(Math.abs(turnDeg), 0)}° to the ${turnDeg < 0 ? "left" : "right"}`;
  const height = `${figure(Math.abs(raiseDeg), 0)}° ${raiseDeg < 0 ? "lower" : "higher"}`;
  return `${name}: ${side}, ${height}`;
}
