import { useState } from "react";
import { TextField } from "../../ui";

/** A field that is kept when it is left, and says why where it is not. */
export function Typed({
  label,
  value,
  type = "text",
  most,
  onDone,
}: {
  label: string;
  value: string;
  type?: "text" | "date";
  /** Characters that are taken. */
  most?: number;
  onDone: (text: string) => string | null;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  return (
    <TextField
      label={label}
      type={type}
      maxLength={most}
      value={typed ?? value}
      error={problem === null ? undefined : `${label} ${problem}`}
      onChange={({ target }) => setTyped(target.value)}
      onBlur={() => {
        if (typed === null || typed === value) return setTyped(null);
        const wrong = onDone(typed);
        setProblem(wrong);
        if (wrong === null) setTyped(null);
      }}
    />
  );
}
