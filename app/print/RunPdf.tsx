import { toldRadios, trialSeconds, type RunGroup } from "#core/channels";
import { Document, Page, StyleSheet, Text, View } from "@react-pdf/renderer";
import { counted } from "#core/words";
import { registerFonts } from "./fonts";

registerFonts();

const styles = StyleSheet.create({
  page: { padding: 36, fontFamily: "Next", fontSize: 10, color: "#1e2a32" },
  title: { fontSize: 15, fontWeight: 700 },
  quiet: { color: "#5b676e", fontSize: 9, marginBottom: 8 },
  heading: { fontSize: 11, fontWeight: 700, marginTop: 10, marginBottom: 3 },
  step: { flexDirection: "row", paddingVertical: 2 },
  box: { width: 9, height: 9, borderWidth: 1, borderColor: "#1e2a32", marginRight: 6, marginTop: 2 },
  text: { flex: 1 },
});

/** What a radio is set to, in words. */
function settingWords({ fromMHz, toMHz }: RunGroup, power: string | undefined): string {
  const channel = fromMHz === toMHz ? [] : [`${toMHz} MHz`];
  return [...channel, ...(power === undefined ? [] : [power])].join(", ");
}

/** What becomes another of a group, in words. */
function changeWords({ fromMHz, toMHz, powers }: RunGroup): string {
  const count = Object.keys(powers).length;
  const power = count === 0 ? "" : `${counted(count, "power")}`;
  if (fromMHz === toMHz) return power;
  return `${fromMHz} to ${toMHz} MHz${power === "" ? "" : `, ${power}`}`;
}

/** A change of channels and powers to be done by hand: group by group, whom first, and what to do when somebody is not heard. */
export function RunPdf({
  planName,
  groups,
  revision,
  places,
  powerTexts,
}: {
  planName: string;
  groups: readonly RunGroup[];
  revision: number;
  /** Each radio with where it stands and how it is reached, by its id. */
  places: Readonly<Record<string, string>>;
  /** What the power of a radio is set to and from what, by its id. */
  powerTexts: Readonly<Record<string, string>>;
}) {
  const step = (key: string, text: string) => (
    <View key={key} style={styles.step} wrap={false}>
      <View style={styles.box} />
      <Text style={styles.text}>{text}</Text>
    </View>
  );
  return (
    <Document title={`Channel run of ${planName}`}>
      <Page size="A4" style={styles.page}>
        <Text style={styles.title}>Channel run of {planName}</Text>
        <Text style={styles.quiet}>
          Over revision {revision}. One group at a time, in this order; whoever is farthest from the feed first. Set
          every radio to return by itself if it is not confirmed. Whoever works on a mast or roof follows the cautions
          of its own sheet and local codes.
        </Text>
        {groups.map((group, i) => {
          const minutes = Math.ceil(trialSeconds(group) / 60);
          return (
            <View key={group.leaderId}>
              <Text style={styles.heading}>
                {i + 1}. {group.name}: {changeWords(group)}
              </Text>
              {step(
                "see",
                "All radios below answer and have one version. If one is silent, leave this group as it is.",
              )}
              {group.hasSpareWay === false &&
                step("way", "No other way leads to its far site: somebody is ready to drive there.")}
              {toldRadios(group).map((id) =>
                step(id, `${places[id]}: ${settingWords(group, powerTexts[id])} on trial for ${minutes} min`),
              )}
              {group.radarWaitS > 0 &&
                step("radar", `Wait ${group.radarWaitS} s: it listens for radar before it may send.`)}
              {step(
                "all",
                `All ${group.followerIds.length + 1} are heard as they shall be. If not: confirm none, wait ${minutes} min until all are back, and stop here.`,
              )}
              {step(
                "keep",
                "Confirm those farthest first, this one last. Read one level at each end and write it down.",
              )}
            </View>
          );
        })}
      </Page>
    </Document>
  );
}
