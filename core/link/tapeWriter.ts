/** One printed line: a signed step, or a total that stands on its own. */
export interface TapeLine {
  key: string;
  label: string;
  /** Signed change in dB, or null on a line that only states a total. */
  stepDb: number | null;
  /** The running total after the line, with its unit. */
  total: number | null;
  unit: "dBm" | "dB" | "Mbit/s";
  formula: string;
  inputs: [name: string, value: string][];
  source: string;
}

/** Writes the lines of a sum of decibels one after another, with the running total in dBm beside each. */
export function tapeWriter() {
  const lines: TapeLine[] = [];
  let total = 0;
  return {
    lines,
    /** A signed step. */
    line: (key: string, label: string, stepDb: number, formula: string, inputs: TapeLine["inputs"], source: string) => {
      total += stepDb;
      lines.push({ key, label, stepDb, total, unit: "dBm", formula, inputs, source });
    },
    /** A figure that stands on its own. */
    state: (
      key: string,
      label: string,
      value: number,
      unit: TapeLine["unit"],
      formula: string,
      inputs: TapeLine["inputs"],
      source: string,
    ) => void lines.push({ key, label, stepDb: null, total: value, unit, formula, inputs, source }),
    total: () => total,
  };
}
