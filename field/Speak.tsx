import { useEffect, useState } from "react";
import { localTime } from "./here";
import { Big } from "./parts";
import { useRecorder } from "./useRecorder";

/** Speaks a note: one press begins, the next one keeps it. Where the phone gives no microphone, words are typed. */
export function Speak({ onSpoken }: { onSpoken: (blob: Blob, seconds: number) => void }) {
  const { seconds, problem, isAble, begin, end } = useRecorder(onSpoken);
  if (!isAble) return null;
  const isOn = seconds !== null;
  return (
    <div className="mt-3">
      <Big className="w-full" look={isOn ? "stop" : "plain"} aria-pressed={isOn} onClick={isOn ? end : begin}>
        {isOn ? `Keep what was said: ${seconds} s` : "Speak instead"}
      </Big>
      {problem && (
        <p role="alert" className="mt-1 font-semibold text-blocked">
          {problem}
        </p>
      )}
    </div>
  );
}

/** What was spoken, to be listened to: from this phone where it still waits, otherwise from the desk. */
export function Spoken({ blob, url, by, at }: { blob: Blob | null; url: string; by: string; at: string }) {
  const [own, setOwn] = useState<string | null>(null);
  const [isMissing, setMissing] = useState(false);
  useEffect(() => {
    if (!blob) return;
    const made = URL.createObjectURL(blob);
    setOwn(made);
    return () => {
      URL.revokeObjectURL(made);
      setOwn(null);
    };
  }, [blob]);
  if (isMissing && !own) return <p className="text-quiet">Spoken; it can be listened to when there is signal.</p>;
  return (
    <audio
      controls
      preload="metadata"
      src={own ?? url}
      aria-label={`Spoken by ${by || "somebody"}, ${localTime(at)}`}
      className="h-14 w-full min-w-56"
      onError={() => setMissing(true)}
    />
  );
}
