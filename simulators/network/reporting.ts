import type { PushedSample } from "#core/watch";
import Papa from "papaparse";

/** Where devices report to, and what they show for it. */
export interface ReportsDoor {
  address: string;
  token: string;
}

/** Reports samples as a device does that knows where to report to. Throws where they were not taken, with what was said. */
export async function report(
  samples: readonly PushedSample[],
  as: "json" | "csv",
  { address, token }: ReportsDoor,
): Promise<void> {
  const columns = [...new Set(samples.flatMap((sample) => Object.keys(sample)))];
  const body = as === "json" ? JSON.stringify(samples) : Papa.unparse([...samples], { columns });
  const response = await fetch(address, {
    method: "POST",
    headers: {
      Authorization: `Bearer ${token}`,
      "Content-Type": as === "json" ? "application/json" : "text/csv",
    },
    body,
  });
  if (!response.ok) throw new Error(`a report was not taken (${response.status}): ${await response.text()}`);
}
