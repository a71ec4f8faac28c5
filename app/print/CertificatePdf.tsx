import { END_SIDES, inOrder, ticked, type EndSide, type FieldNote } from "#core/crews";
import { CAUTION_NOTE, CAUTIONS } from "#core/install";
import type { Measurement } from "#core/plan";
import { chainLevels, combinedLevelDbm, schoolsOf, type Verdict } from "#core/proof";
import { figure } from "#core/words";
import { Document, Page, StyleSheet, Text, View } from "@react-pdf/renderer";
import type { FieldPack } from "#wire";
import { registerFonts } from "./fonts";
import type { Formats } from "../ui/format";
import type { PrintedPhoto } from "../crew/photos.server";
import { PhotosPdf } from "./PhotosPdf";

registerFonts();

const styles = StyleSheet.create({
  page: { padding: 36, fontFamily: "Next", fontSize: 9.5, color: "#1e2a32" },
  title: { fontSize: 15, fontWeight: 700 },
  state: { fontSize: 13, fontWeight: 700, marginTop: 6 },
  quiet: { color: "#5b676e", fontSize: 8.5 },
  heading: { fontSize: 11, fontWeight: 700, marginTop: 10, marginBottom: 3 },
  row: { flexDirection: "row", borderBottomWidth: 0.5, borderColor: "#dcd4c6", paddingVertical: 2 },
  word: { flex: 2 },
  figure: { flex: 1, fontFamily: "Figures", textAlign: "right" },
});

const STATE_WORDS = { proven: "Proven", doubtful: "Doubtful", failed: "Failed" } as const;

interface Certified {
  pack: FieldPack;
  reading: Measurement;
  verdict: Verdict;
  /** What the criteria were when it was measured, where the plan has others now, in words. */
  changed: string | null;
  photos: PrintedPhoto[];
}

const dBm = (value: number | null) => (value === null ? "not read" : `${figure(value)} dBm`);
/** A row for each chain that was read; the prediction holds for each of them. */
const chainRows = (name: string, levels: readonly number[], expectedDbm: number): [string, string, string][] =>
  levels.map((level, i) => [`Signal at ${name}, chain ${i + 1}`, dBm(level), dBm(expectedDbm)]);
const rate = (value: number | null) => (value === null ? "not read" : `${figure(value)} Mbit/s`);

/** What was predicted, measured, confirmed and photographed of a link, by whom and over which revision of the plan. */
export function CertificatePdf({ certified, formats }: { certified: Certified; formats: Formats }) {
  const { pack, reading, verdict, changed, photos } = certified;
  const { a, b } = pack.ends!;
  const [nameA, nameB] = [a.sheet.placeName, b.sheet.placeName];
  const rows: [string, string, string][] = [
    ...chainRows(nameA, chainLevels(reading, "a"), a.sheet.expectedChainDbm),
    [`Total signal at ${nameA}`, dBm(combinedLevelDbm(chainLevels(reading, "a"))), dBm(reading.expectedADbm)],
    ...chainRows(nameB, chainLevels(reading, "b"), b.sheet.expectedChainDbm),
    [`Total signal at ${nameB}`, dBm(combinedLevelDbm(chainLevels(reading, "b"))), dBm(reading.expectedBDbm)],
    [`Noise at ${nameA}, one chain`, dBm(reading.noiseADbm), dBm(reading.expectedNoiseADbm)],
    [`Noise at ${nameB}, one chain`, dBm(reading.noiseBDbm), dBm(reading.expectedNoiseBDbm)],
    [`Throughput toward ${nameB}`, rate(reading.downMbps), rate(reading.expectedDownMbps)],
    [`Throughput toward ${nameA}`, rate(reading.upMbps), rate(reading.expectedUpMbps)],
  ];
  return (
    <Document title={`Certificate of ${pack.name}`} author="Tejado">
      <Page size="A4" style={styles.page}>
        <Text style={styles.title}>{pack.name}</Text>
        <Text style={styles.quiet}>
          {pack.planName}, revision {pack.revision} · {formats.distance(pack.distanceM)} · read{" "}
          {reading.measuredAt.slice(0, 16).replace("T", " ")} UTC by {reading.measuredBy || "somebody"}
        </Text>
        <Text style={styles.state}>{STATE_WORDS[verdict.state]}</Text>
        {verdict.summary !== "" && <Text>{verdict.summary}</Text>}
        <View style={[styles.row, { marginTop: 8 }]}>
          <Text style={styles.word}> </Text>
          <Text style={styles.figure}>measured</Text>
          <Text style={styles.figure}>predicted</Text>
        </View>
        {rows.map(([word, measured, predicted]) => (
          <View key={word} style={styles.row}>
            <Text style={styles.word}>{word}</Text>
            <Text style={styles.figure}>{measured}</Text>
            <Text style={styles.figure}>{predicted}</Text>
          </View>
        ))}
        <Text style={styles.heading}>How it was judged</Text>
        {schoolsOf(verdict).map(([school, found]) => (
          <Text key={school}>
            {found.passed ? "Passed" : "Not passed"}, {school}: {found.text}
          </Text>
        ))}
        {changed !== null && <Text>{changed}</Text>}
        {verdict.causes.length > 0 && <Text style={styles.heading}>Still to be done</Text>}
        {verdict.causes.map((cause) => (
          <Text key={cause.kind}>
            {cause.title}: {cause.reason}. {cause.next}
          </Text>
        ))}
        {END_SIDES.map((side) => (
          <EndOf
            key={side}
            name={side === "a" ? nameA : nameB}
            side={side}
            notes={pack.notes}
            steps={pack.ends![side].sheet.work.steps.length}
          />
        ))}
        <PhotosPdf photos={photos} />
        <Text style={[styles.quiet, { marginTop: 10 }]}>
          Tejado compared readings with its prediction and listed what people confirmed. {CAUTION_NOTE}
        </Text>
      </Page>
    </Document>
  );
}

/** What was confirmed and done at one end, by whom. */
function EndOf({
  name,
  side,
  notes,
  steps,
}: {
  name: string;
  side: EndSide;
  notes: readonly FieldNote[];
  steps: number;
}) {
  const cautions = [...ticked(notes, side, "caution").values()];
  const done = ticked(notes, side, "step").size;
  const here = inOrder(notes).filter((note) => note.side === side);
  const signed = here.findLast(({ kind }) => kind === "signed");
  const serials = here.filter(({ kind }) => kind === "serial").map(({ text }) => text);
  const confirmers = [...new Set(cautions.map(({ by }) => by).filter(Boolean))];
  return (
    <>
      <Text style={styles.heading}>{name}</Text>
      <Text>
        {cautions.length} of {CAUTIONS.length} cautions confirmed
        {confirmers.length > 0 && ` by ${confirmers.join(", ")}`}; {done} of {steps} steps ticked
        {serials.length > 0 && `; serial number ${serials.join(", ")}`}.
      </Text>
      {signed && (
        <Text>
          Shown to and signed by {signed.text}, {signed.at.slice(0, 16).replace("T", " ")} UTC.
        </Text>
      )}
    </>
  );
}
