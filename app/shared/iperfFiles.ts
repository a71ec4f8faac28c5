import { IperfError, ratesOf, readIperf, type IperfResult } from "#formats/iperf";
import { figure } from "#core/words";

/** What some iperf3 files came to: rates both ways in words and figures, or what was wrong with the first bad one. */
export interface IperfFound {
  downMbps: number | null;
  upMbps: number | null;
  /** "TCP, 10 s, 94.0 Mbit/s (90.0 to 96.0), 7 sent again". */
  said: string[];
  problem: string;
}

/** Reads iperf3's results; `begunAt` is the end at which whoever began the test sat. */
export async function readIperfFiles(files: Iterable<File>, begunAt: "a" | "b"): Promise<IperfFound> {
  const results: IperfResult[] = [];
  let problem = "";
  for (const file of files)
    try {
      results.push(readIperf(new Uint8Array(await file.arrayBuffer())));
    } catch (error) {
      if (!(error instanceof IperfError)) throw error;
      problem ||= `${file.name}: ${error.told}`;
    }
  return { ...ratesOf(results, begunAt), said: results.flatMap(saidOf), problem };
}

function saidOf({ protocol, streams, seconds, flows }: IperfResult): string[] {
  return flows.map(({ direction, mbps, leastMbps, mostMbps, retransmits, lostPercent, jitterMs }) =>
    [
      `${protocol}${streams > 1 ? `, ${streams} streams` : ""}, ${figure(seconds, 0)} s, ${direction === "fromClient" ? "out" : "back"}: ${figure(mbps)} Mbit/s`,
      leastMbps !== null && mostMbps !== null && `${figure(leastMbps)} to ${figure(mostMbps)}`,
      retransmits !== null && `${retransmits} sent again`,
      lostPercent !== null && `${figure(lostPercent)} % lost`,
      jitterMs !== null && `jitter ${figure(jitterMs)} ms`,
    ]
      .filter(Boolean)
      .join(", "),
  );
}
