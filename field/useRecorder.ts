import { useCallback, useEffect, useRef, useState } from "react";

/** The longest that is recorded in one piece, s. */
const LONGEST_S = 120;
/** Kinds of file in the order in which they are liked; every browser that records has one of them. */
const TYPES = ["audio/webm;codecs=opus", "audio/ogg;codecs=opus", "audio/mp4"];
/** Speech, not music, bits a second. */
const BITS_PER_S = 24_000;

/** Records speech by the phone's microphone; `onDone` gets each recording with its length in seconds. */
export function useRecorder(onDone: (blob: Blob, seconds: number) => void) {
  /** How long the recording under way has run; null where none is. */
  const [seconds, setSeconds] = useState<number | null>(null);
  const [problem, setProblem] = useState("");
  const recorder = useRef<MediaRecorder | null>(null);
  const isAble = typeof MediaRecorder !== "undefined" && "mediaDevices" in navigator;

  const end = useCallback(() => recorder.current?.stop(), []);
  const begin = async () => {
    setProblem("");
    const stream = await navigator.mediaDevices.getUserMedia({ audio: true }).catch(() => null);
    if (!stream)
      return setProblem("The phone gives no microphone to this page: allow it in the browser's settings, or type.");
    const mimeType = TYPES.find((type) => MediaRecorder.isTypeSupported(type));
    const made = new MediaRecorder(stream, { audioBitsPerSecond: BITS_PER_S, ...(mimeType && { mimeType }) });
    const parts: Blob[] = [];
    const begun = performance.now();
    const clock = setInterval(() => {
      const past = Math.floor((performance.now() - begun) / 1000);
      setSeconds(past);
      if (past >= LONGEST_S) end();
    }, 250);
    made.ondataavailable = ({ data }) => parts.push(data);
    made.onstop = () => {
      clearInterval(clock);
      // The microphone's lamp goes out at once.
      for (const track of stream.getTracks()) track.stop();
      recorder.current = null;
      setSeconds(null);
      const blob = new Blob(parts, { type: made.mimeType });
      if (blob.size > 0) onDone(blob, Math.round((performance.now() - begun) / 1000));
    };
    recorder.current = made;
    setSeconds(0);
    // A call that takes the microphone ends the recording, and it is kept as if it had been ended by hand.
    made.start();
  };
  // What is being said when the page is left is kept.
  useEffect(() => end, [end]);
  return { seconds, problem, isAble, begin: () => void begin(), end };
}
