import { SETTING_WORDS, settingText, settingWord, type ConfigSheet, type DeviceSettings } from "#core/staging";
import { Document, Page, StyleSheet, Text, View } from "@react-pdf/renderer";
import { registerFonts } from "./fonts";

registerFonts();

const styles = StyleSheet.create({
  page: { padding: 30, flexDirection: "row", flexWrap: "wrap", fontFamily: "Next", fontSize: 9, color: "#000000" },
  sheet: { width: "50%", padding: 6 },
  name: { fontSize: 11, fontWeight: 700 },
  row: { flexDirection: "row", borderBottomWidth: 0.5, borderColor: "#c8c4ba", paddingVertical: 1 },
  word: { width: 110, color: "#5b676e" },
  value: { fontFamily: "Figures", flex: 1 },
});

/** What each device is to be set to, on paper; of secrets only the names under which they are kept. */
export function SheetsPdf({ planName, sheets }: { planName: string; sheets: readonly ConfigSheet[] }) {
  return (
    <Document title={`Configuration of ${planName}`} author="Tejado">
      <Page size="A4" style={styles.page}>
        {sheets.map((sheet) => {
          const { radioId, settings, model, placeName, firmware, keyRef, passwordRef } = sheet;
          const rows: [string, string][] = [
            ...(Object.keys(SETTING_WORDS) as (keyof DeviceSettings)[]).map((setting): [string, string] => [
              settingWord(setting, sheet),
              settingText(settings[setting]),
            ]),
            ["Firmware", firmware || "any"],
            ["Key kept as", keyRef],
            ["Password kept as", passwordRef],
          ];
          return (
            <View key={radioId} style={styles.sheet} wrap={false}>
              <Text style={styles.name}>{settings.name}</Text>
              <Text>
                {model}, {placeName}
              </Text>
              {rows.map(([word, value]) => (
                <View key={word} style={styles.row}>
                  <Text style={styles.word}>{word}</Text>
                  <Text style={styles.value}>{value}</Text>
                </View>
              ))}
            </View>
          );
        })}
      </Page>
    </Document>
  );
}
