import type { Procedure } from "#core/plan";
import { EXAMPLE_END, drawingOf, takesWords, toolWords } from "#core/procedures";
import { Document, Page, StyleSheet, Text, View } from "@react-pdf/renderer";
import { DrawingPdf } from "./DrawingPdf";
import { registerFonts } from "./fonts";

registerFonts();

const styles = StyleSheet.create({
  page: { padding: 36, fontFamily: "Next", fontSize: 10, color: "#000000" },
  title: { fontSize: 14, fontWeight: 700 },
  quiet: { color: "#5b676e", fontSize: 9 },
  row: { flexDirection: "row", marginVertical: 2 },
  box: { width: 9, height: 9, borderWidth: 1, marginRight: 6, marginTop: 1.5 },
  grow: { flex: 1 },
  bold: { fontWeight: 700 },
});

/** Procedures to be hung on a wall, each on a page of its own. */
export function ProceduresPdf({ planName, procedures }: { planName: string; procedures: readonly Procedure[] }) {
  return (
    <Document title={`Procedures of ${planName}`} author="Tejado">
      {procedures.map(({ id, name, steps }) => (
        <Page key={id} size="A4" style={styles.page}>
          <Text style={styles.title}>{name}</Text>
          <Text style={styles.quiet}>Take: {toolWords(steps) || "nothing but what is in the box"}</Text>
          {steps.map((step, i) => (
            <View key={step.id} style={styles.row} wrap={false}>
              <View style={styles.box} />
              <Text style={styles.grow}>
                {i + 1}. {step.text} {takesWords(step)}
                {step.caution ? <Text style={styles.bold}> Caution: {step.caution}</Text> : ""}
                {step.trap ? <Text style={styles.quiet}> Mind: {step.trap}</Text> : ""}
              </Text>
              {step.diagram && <DrawingPdf drawing={drawingOf(step.diagram, EXAMPLE_END)} />}
            </View>
          ))}
        </Page>
      ))}
    </Document>
  );
}
