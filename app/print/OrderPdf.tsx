import type { StockedLine } from "#core/bill";
import { figure } from "#core/words";
import { Document, Page, StyleSheet, Text, View } from "@react-pdf/renderer";
import { euros } from "../ui/format";
import { registerFonts } from "./fonts";

registerFonts();

const styles = StyleSheet.create({
  page: { padding: 36, fontFamily: "Next", fontSize: 10, color: "#1e2a32" },
  title: { fontSize: 15, fontWeight: 700 },
  quiet: { color: "#5b676e", fontSize: 9, marginBottom: 8 },
  row: { flexDirection: "row", borderTopWidth: 0.5, borderColor: "#c9c2b4", paddingVertical: 3 },
  head: { flexDirection: "row", color: "#5b676e", fontSize: 9, paddingVertical: 3 },
  item: { flex: 1 },
  number: { width: 70, textAlign: "right" },
  figure: { width: 70, textAlign: "right", fontFamily: "Figures" },
  box: { width: 9, height: 9, borderWidth: 1, borderColor: "#1e2a32", marginRight: 6, marginTop: 1.5 },
  sum: { flexDirection: "row", borderTopWidth: 1, paddingVertical: 4, fontWeight: 700 },
});

/** What is still to be ordered, in packs, with a box to tick for each. */
export function OrderPdf({ planName, date, lines }: { planName: string; date: string; lines: readonly StockedLine[] }) {
  const open = lines.filter(({ packsLeft }) => packsLeft > 0);
  return (
    <Document title={`Order for ${planName}`}>
      <Page size="A4" style={styles.page}>
        <Text style={styles.title}>Order for {planName}</Text>
        <Text style={styles.quiet}>
          {date}. What the plan takes with its spares, less what is in store or ordered. Prices are the library’s; ask
          for today’s.
        </Text>
        {open.length === 0 && <Text>Nothing is left to order.</Text>}
        {open.length > 0 && (
          <View style={styles.head} fixed>
            <Text style={styles.item}>Item</Text>
            <Text style={styles.number}>Still lacking</Text>
            <Text style={styles.number}>To order</Text>
            <Text style={styles.number}>Price</Text>
          </View>
        )}
        {open.map(({ itemId, name, unit, leftToOrder, packOf, packsLeft, leftEur }) => (
          <View key={itemId} style={styles.row} wrap={false}>
            <View style={styles.box} />
            <Text style={styles.item}>{name}</Text>
            <Text style={styles.figure}>
              {figure(leftToOrder, 0)}
              {unit === "m" ? " m" : ""}
            </Text>
            <Text style={styles.figure}>{packOf === 1 ? packsLeft : `${packsLeft} × ${packOf}`}</Text>
            <Text style={styles.figure}>{euros(leftEur)}</Text>
          </View>
        ))}
        {open.length > 0 && (
          <View style={styles.sum} wrap={false}>
            <Text style={styles.item}>In all</Text>
            <Text style={styles.figure}>{euros(open.reduce((sum, { leftEur }) => sum + leftEur, 0))}</Text>
          </View>
        )}
      </Page>
    </Document>
  );
}
