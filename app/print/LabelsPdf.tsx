import type { ConfigSheet } from "#core/staging";
import { Document, Image, Page, StyleSheet, Text, View } from "@react-pdf/renderer";
import QRCode from "qrcode";
import { registerFonts } from "./fonts";

registerFonts();

/** What a label says. */
interface Label {
  sheet: ConfigSheet;
  serial: string;
}
type Coded = Label & { qrPng: string };

const styles = StyleSheet.create({
  page: { padding: 24, flexDirection: "row", flexWrap: "wrap", fontFamily: "Next", fontSize: 9, color: "#000000" },
  label: {
    width: 172,
    height: 76,
    padding: 6,
    margin: 3,
    flexDirection: "row",
    borderWidth: 0.5,
    borderColor: "#8a8a8a",
  },
  code: { width: 62, height: 62, marginRight: 6 },
  words: { flex: 1 },
  name: { fontSize: 10.5, fontWeight: 700 },
  figures: { fontFamily: "Figures", fontSize: 8.5 },
});

/** Labels to be cut: name, place, address and serial number, and the same as a code that a phone reads. No secret stands on them. */
export async function labelsPdf({ planName, labels }: { planName: string; labels: readonly Label[] }) {
  const coded = await Promise.all(
    labels.map(async ({ sheet, serial }) => {
      const text = [sheet.settings.name, sheet.placeName, sheet.settings.address, serial].join("\n");
      return { sheet, serial, qrPng: await QRCode.toDataURL(text, { margin: 0, scale: 3 }) };
    }),
  );
  return <LabelsPdf planName={planName} labels={coded} />;
}

function LabelsPdf({ planName, labels }: { planName: string; labels: readonly Coded[] }) {
  return (
    <Document title={`Labels of ${planName}`}>
      <Page size="A4" style={styles.page}>
        {labels.map(({ sheet: { radioId, settings, placeName }, serial, qrPng }) => (
          <View key={radioId} style={styles.label} wrap={false}>
            <Image src={qrPng} style={styles.code} />
            <View style={styles.words}>
              <Text style={styles.name}>{settings.name}</Text>
              <Text>{placeName}</Text>
              <Text>{settings.mode}</Text>
              <Text style={styles.figures}>{settings.address || "no address yet"}</Text>
              <Text style={styles.figures}>{serial || "S/N"}</Text>
            </View>
          </View>
        ))}
      </Page>
    </Document>
  );
}
