import { linkName, type World } from "#core/plan";
import { CAUSES, monthName, type CauseKind, type LinkWatch } from "#core/watch";
import { figure, signedFigure } from "#core/words";
import { Document, Page, StyleSheet, Text, View } from "@react-pdf/renderer";
import { registerFonts } from "../data/pdfFonts";

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

/** Links that are printed; the worst stand first. */
const MOST_LINKS = 300;

/** A month of the network: what was delivered of each link, by site what that makes, and what strayed. */
export function MonthPdf({
  world,
  month,
  links,
  isSimulated,
}: {
  world: World;
  month: number;
  links: readonly LinkWatch[];
  isSimulated: boolean;
}) {
  const name = monthName(month);
  const rows = links
    .flatMap((link) => {
      const one = link.months.find((each) => each.month === month);
      return one && one.hoursAsked > 0
        ? [{ link, one, up: (100 * one.hoursUp) / one.hoursAsked, good: (100 * one.hoursGood) / one.hoursAsked }]
        : [];
    })
    .sort((x, y) => x.up - y.up || x.good - y.good);
  const bySite = new Map<string, { asked: number; up: number; good: number; links: number }>();
  for (const { link, one } of rows) {
    const siteId = world.radios.get(world.links.get(link.linkId)!.aRadioId)?.siteId ?? "";
    const sum = bySite.get(siteId) ?? { asked: 0, up: 0, good: 0, links: 0 };
    bySite.set(siteId, {
      asked: sum.asked + one.hoursAsked,
      up: sum.up + one.hoursUp,
      good: sum.good + one.hoursGood,
      links: sum.links + 1,
    });
  }
  const all = [...bySite.values()].reduce((sum, one) => ({ asked: sum.asked + one.asked, up: sum.up + one.up }), {
    asked: 0,
    up: 0,
  });
  const alarms = [...world.alarms.values()].filter(
    ({ raisedDay, endedDay }) => raisedDay.slice(0, 7) <= name && (endedDay === "" || endedDay.slice(0, 7) >= name),
  );
  return (
    <Document title={`${world.plan.name}, ${name}`} author="Tejado">
      <Page size="A4" style={styles.page}>
        <Text style={styles.title}>
          {world.plan.name}, {name}
        </Text>
        <Text style={styles.quiet}>
          {isSimulated ? "Of a simulated network. " : ""}Hours in which either end of a link was heard of, of those in
          which anything was asked
          {all.asked > 0 ? `: ${figure((100 * all.up) / all.asked, 3)} % over all links` : ""}. Good hours carry at
          least half the promised rate.
        </Text>
        <Text style={styles.heading}>What strayed</Text>
        {alarms.length === 0 && <Text>Nothing was raised in this month.</Text>}
        {alarms.map((alarm) => (
          <Text key={alarm.id}>
            {world.links.has(alarm.linkId) ? linkName(world, alarm.linkId) : alarm.linkId}
            {alarm.linkIds.length > 1 ? ` and ${alarm.linkIds.length - 1} more` : ""}: since {alarm.sinceDay}{" "}
            {alarm.what}
            {alarm.causes[0]
              ? `; likely ${(CAUSES[alarm.causes[0].cause as CauseKind]?.title ?? alarm.causes[0].cause).toLowerCase()} (${Math.round(alarm.causes[0].odds * 100)} %)`
              : ""}
            {alarm.state === "closed" ? `; closed, ${alarm.closedWhy}` : `; ${alarm.state}`}.
          </Text>
        ))}
        <Text style={styles.heading}>By site</Text>
        <View style={styles.head}>
          <Text style={styles.word}>Site</Text>
          <Text style={styles.number}>links</Text>
          <Text style={styles.number}>up, %</Text>
          <Text style={styles.number}>good, %</Text>
        </View>
        {[...bySite].map(([siteId, one]) => (
          <View key={siteId} style={styles.row} wrap={false}>
            <Text style={styles.word}>{world.sites.get(siteId)?.name ?? "no site"}</Text>
            <Text style={styles.figure}>{one.links}</Text>
            <Text style={styles.figure}>{figure((100 * one.up) / one.asked, 3)}</Text>
            <Text style={styles.figure}>{figure((100 * one.good) / one.asked, 2)}</Text>
          </View>
        ))}
        <Text style={styles.heading}>
          By link, worst first{rows.length > MOST_LINKS ? `: ${MOST_LINKS} of ${rows.length}` : ""}
        </Text>
        <View style={styles.head} fixed>
          <Text style={styles.word}>Link</Text>
          <Text style={styles.number}>up, %</Text>
          <Text style={styles.number}>good, %</Text>
          <Text style={styles.number}>tape, %</Text>
          <Text style={styles.number}>dB off promise</Text>
        </View>
        {rows.slice(0, MOST_LINKS).map(({ link, one, up, good }) => (
          <View key={link.linkId} style={styles.row} wrap={false}>
            <Text style={styles.word}>{linkName(world, link.linkId)}</Text>
            <Text style={styles.figure}>{figure(up, 3)}</Text>
            <Text style={styles.figure}>{figure(good, 2)}</Text>
            <Text style={styles.figure}>
              {link.promised.availabilityBound === "atMost"
                ? "≤ "
                : link.promised.availabilityBound === "atLeast"
                  ? "≥ "
                  : ""}
              {figure(link.promised.worstMonthPercent, 3)}
            </Text>
            <Text style={styles.figure}>{one.deviationDb === null ? "–" : signedFigure(one.deviationDb)}</Text>
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
