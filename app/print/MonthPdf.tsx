import type { MonthReport } from "#core/watch";
import { figure, signedFigure } from "#core/words";
import { Document, Page, StyleSheet, Text, View } from "@react-pdf/renderer";
import { registerFonts } from "./fonts";

registerFonts();

const styles = StyleSheet.create({
  page: { padding: 36, fontFamily: "Next", fontSize: 9.5, color: "#1e2a32" },
  title: { fontSize: 15, fontWeight: 700 },
  quiet: { color: "#5b676e", fontSize: 8.5, marginBottom: 6 },
  heading: { fontSize: 11, fontWeight: 700, marginTop: 10, marginBottom: 3 },
  row: { flexDirection: "row", borderTopWidth: 0.5, borderColor: "#dcd4c6", paddingVertical: 2 },
  head: { flexDirection: "row", color: "#5b676e", fontSize: 8.5, paddingVertical: 2 },
  word: { flex: 3 },
  figure: { flex: 1, fontFamily: "Figures", textAlign: "right" },
  number: { flex: 1, textAlign: "right" },
});

/** How a figure is marked that is only a bound. */
const boundMark = (bound: "atMost" | "atLeast" | null) => (bound === null ? "" : bound === "atMost" ? "≤ " : "≥ ");

/** A month of the network: what was delivered of each link, by site what that makes, and what strayed. */
export function MonthPdf({ planName, name, isSimulated, upPercent, sites, links, linksInAll, alarms }: MonthReport) {
  return (
    <Document title={`${planName}, ${name}`} author="Tejado">
      <Page size="A4" style={styles.page}>
        <Text style={styles.title}>
          {planName}, {name}
        </Text>
        <Text style={styles.quiet}>
          {isSimulated ? "Of a simulated network. " : ""}Hours in which either end of a link was heard of, of those in
          which anything was asked
          {upPercent === null ? "" : `: ${figure(upPercent, 3)} % over all links`}. Good hours carry at least half the
          promised rate.
        </Text>
        <Text style={styles.heading}>What strayed</Text>
        {alarms.length === 0 && <Text>Nothing was raised in this month.</Text>}
        {alarms.map((alarm, i) => (
          <Text key={i}>{alarm}</Text>
        ))}
        <Text style={styles.heading}>By site</Text>
        <View style={styles.head}>
          <Text style={styles.word}>Site</Text>
          <Text style={styles.number}>links</Text>
          <Text style={styles.number}>up, %</Text>
          <Text style={styles.number}>good, %</Text>
        </View>
        {sites.map((site, i) => (
          <View key={i} style={styles.row} wrap={false}>
            <Text style={styles.word}>{site.name}</Text>
            <Text style={styles.figure}>{site.links}</Text>
            <Text style={styles.figure}>{figure(site.upPercent, 3)}</Text>
            <Text style={styles.figure}>{figure(site.goodPercent, 2)}</Text>
          </View>
        ))}
        <Text style={styles.heading}>
          By link, worst first{linksInAll > links.length ? `: ${links.length} of ${linksInAll}` : ""}
        </Text>
        <View style={styles.head} fixed>
          <Text style={styles.word}>Link</Text>
          <Text style={styles.number}>up, %</Text>
          <Text style={styles.number}>good, %</Text>
          <Text style={styles.number}>tape, %</Text>
          <Text style={styles.number}>dB off promise</Text>
        </View>
        {links.map((link, i) => (
          <View key={i} style={styles.row} wrap={false}>
            <Text style={styles.word}>{link.name}</Text>
            <Text style={styles.figure}>{figure(link.upPercent, 3)}</Text>
            <Text style={styles.figure}>{figure(link.goodPercent, 2)}</Text>
            <Text style={styles.figure}>
              {boundMark(link.availabilityBound)}
              {figure(link.worstMonthPercent, 3)}
            </Text>
            <Text style={styles.figure}>{link.deviationDb === null ? "–" : signedFigure(link.deviationDb)}</Text>
          </View>
        ))}
        <Text style={[styles.quiet, { marginTop: 6 }]}>
          What the tape says is for the worst month of an average year, in the weaker direction at its lowest
          modulation.
        </Text>
      </Page>
    </Document>
  );
}
