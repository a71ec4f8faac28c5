import { acceptText } from "../shared/acceptText";
import { drawingOf, takesWords, toolWords } from "#core/procedures";
import { DrawingPdf } from "./DrawingPdf";
import { registerFonts } from "./fonts";
import { CAUTION_NOTE, CAUTIONS, sendingWords, type CrewEnd } from "#core/install";
import { Document, Page, StyleSheet, Text, View } from "@react-pdf/renderer";
import { figure } from "#core/words";
import type { Formats } from "../ui/format";
import type { SheetData } from "../crew/sheet.server";

registerFonts();

const styles = StyleSheet.create({
  page: { padding: 36, fontFamily: "Next", fontSize: 10, color: "#1e2a32" },
  title: { fontSize: 15, fontWeight: 700 },
  quiet: { color: "#5b676e", fontSize: 9 },
  heading: { fontSize: 11.5, fontWeight: 700, marginTop: 10, marginBottom: 3 },
  cautions: { borderWidth: 1.5, borderColor: "#7a2e5d", padding: 7, marginTop: 8 },
  grid: { flexDirection: "row", flexWrap: "wrap" },
  cell: { width: "33%", paddingVertical: 3 },
  value: { fontFamily: "Figures", fontWeight: 700, fontSize: 13 },
  row: { flexDirection: "row", marginVertical: 1.8 },
  box: { width: 9, height: 9, borderWidth: 1, borderColor: "#1e2a32", marginRight: 6, marginTop: 1.5 },
  grow: { flex: 1 },
  caution: { color: "#7a2e5d", fontWeight: 700 },
});

const POLARIZATION_WORDS: Record<string, string> = { HV: "H and V", X45: "±45°" };

function figuresOf(end: CrewEnd, formats: Formats): [label: string, value: string, note: string][] {
  const { meterVolts, accept, declinationDeg, headingMagneticDeg } = end;
  return [
    [
      "Heading, compass",
      headingMagneticDeg === null ? "–" : `${figure(headingMagneticDeg)}°`,
      declinationDeg === null
        ? "no magnetic model for this date"
        : `declination ${figure(Math.abs(declinationDeg))}° ${declinationDeg < 0 ? "W" : "E"}`,
    ],
    ["Heading, true", `${figure(end.headingTrueDeg)}°`, `sweep at least ±${end.sweepDeg}°`],
    [
      "Tilt",
      `${figure(Math.abs(end.tiltDownDeg))}° ${end.tiltDownDeg >= 0 ? "down" : "up"}`,
      end.bracketBeyondDeg > 0
        ? `${figure(end.bracketBeyondDeg)}° BEYOND the bracket`
        : `bracket ${figure(end.bracketDownDeg, 0)}° down, ${figure(end.bracketUpDeg, 0)}° up`,
    ],
    ["Height on the mast", formats.height(end.heightM), ""],
    [
      `Expect, ${end.chain}`,
      `${figure(end.expectedChainDbm)} dBm`,
      `accept ${acceptText(accept)} dBm${end.expectedTotalDbm > end.expectedChainDbm ? `; all chains together ${figure(end.expectedTotalDbm)} dBm` : ""}`,
    ],
    ...(meterVolts
      ? [
          [
            "Meter",
            `${figure(meterVolts.low, 2)} to ${figure(meterVolts.high, 2)} V`,
            `${meterVolts.stronger} is stronger; expected ${figure(meterVolts.expected, 2)} V`,
          ] as [string, string, string],
        ]
      : []),
    ["Polarization", POLARIZATION_WORDS[end.polarization] ?? end.polarization, "the same at both ends"],
    [
      end.sendsMHz === end.listensMHz ? "Channel" : "Sends on / listens on",
      end.sendsMHz === end.listensMHz ? `${end.sendsMHz} MHz` : `${end.sendsMHz} / ${end.listensMHz} MHz`,
      sendingWords(end),
    ],
  ];
}

/** One end's sheet as a page. */
export function EndPage({
  sheet,
  end,
  other,
  formats,
}: {
  sheet: SheetData;
  end: CrewEnd;
  other: string;
  formats: Formats;
}) {
  return (
    <Page size="A4" style={styles.page}>
      <Text style={styles.title}>
        {end.placeName}, toward {other}
      </Text>
      <Text style={styles.quiet}>
        {sheet.planName} · {sheet.kind} · {formats.distance(sheet.distanceM)} · {formats.place(end.place)} · made{" "}
        {sheet.madeAt.slice(0, 10)}
      </Text>
      <Text style={styles.quiet}>
        {end.radioModel} · {end.antennaModel}
      </Text>
      <View style={styles.cautions}>
        <Text style={{ fontWeight: 700 }}>Before anyone climbs</Text>
        {end.hazards !== "" && <Text style={styles.caution}>Named at this site: {end.hazards}</Text>}
        {end.access !== "" && <Text>The way there: {end.access}</Text>}
        {CAUTIONS.map(({ key, text }) => (
          <View key={key} style={styles.row}>
            <View style={styles.box} />
            <Text style={styles.grow}>{text}</Text>
          </View>
        ))}
        <Text style={styles.quiet}>{CAUTION_NOTE}</Text>
      </View>
      <View style={[styles.grid, { marginTop: 8 }]}>
        {figuresOf(end, formats).map(([label, value, note]) => (
          <View key={label} style={styles.cell}>
            <Text style={styles.quiet}>{label}</Text>
            <Text style={styles.value}>{value}</Text>
            <Text style={styles.quiet}>{note}</Text>
          </View>
        ))}
      </View>
      <Text style={styles.heading}>The order of the work</Text>
      <Text style={styles.quiet}>Take: {toolWords(end.work.steps)}</Text>
      {end.work.leftOut.map(({ name, circle }) => (
        <Text key={name} style={styles.caution}>
          {name} is left out: with it {circle}.
        </Text>
      ))}
      {end.work.steps.map((step, i) => (
        <View key={step.id} style={styles.row} wrap={false}>
          <View style={styles.box} />
          <Text style={styles.grow}>
            {i + 1}. {step.text} {takesWords(step)}
            {step.caution ? <Text style={styles.caution}> Caution: {step.caution}</Text> : ""}
            {step.trap ? <Text style={styles.quiet}> {step.trap}</Text> : ""}
          </Text>
          {step.diagram && <DrawingPdf drawing={drawingOf(step.diagram, end)} />}
        </View>
      ))}
      <Text style={styles.heading}>Measured</Text>
      <Text>
        Level on a chain: first ........... second ........... noise ........... throughput ........... / ...........
      </Text>
      <Text style={{ marginTop: 8 }}>
        Name ........................................ date and hour ........................................
      </Text>
    </Page>
  );
}

/** Both ends' sheets on paper, one page each. */
export function SheetPdf({ sheet, formats }: { sheet: SheetData; formats: Formats }) {
  if (!sheet.ends) throw new RangeError("a sheet without an answered path cannot be printed");
  const [nameA, nameB] = sheet.names;
  return (
    <Document title={`${nameA} – ${nameB}`} author="Tejado">
      <EndPage sheet={sheet} end={sheet.ends.a} other={nameB} formats={formats} />
      <EndPage sheet={sheet} end={sheet.ends.b} other={nameA} formats={formats} />
    </Document>
  );
}
