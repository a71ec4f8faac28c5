import { clock, END_SIDES, jobMapDrawing, sketchOf, type EndSide } from "#core/crews";
import { PERMIT_WORDS } from "#core/plan";
import { Document, Page, StyleSheet, Text, View } from "@react-pdf/renderer";
import type { FieldPack } from "#wire";
import { DrawingPdf } from "./DrawingPdf";
import { registerFonts } from "./fonts";
import { EndPage } from "./SheetPdf";
import { carriedWords, WORK_WORDS } from "../shared/jobWords";
import type { Formats } from "../ui/format";
import type { PrintedPhoto } from "../crew/photos.server";
import { PhotosPdf } from "./PhotosPdf";

registerFonts();

const styles = StyleSheet.create({
  page: { padding: 36, fontFamily: "Next", fontSize: 10, color: "#1e2a32" },
  title: { fontSize: 15, fontWeight: 700 },
  quiet: { color: "#5b676e", fontSize: 9 },
  heading: { fontSize: 11.5, fontWeight: 700, marginTop: 10, marginBottom: 3 },
  row: { flexDirection: "row", marginVertical: 1.5 },
  word: { width: 130, color: "#5b676e" },
  value: { flex: 1 },
  wrong: { color: "#7a2e5d", fontWeight: 700 },
});

const MAP_PT = 330;

/** A job on paper: who, when and what must be so before, then the sheets of both ends. */
export function PackPdf({
  pack,
  problems,
  photos,
  formats,
}: {
  pack: FieldPack;
  problems: readonly string[];
  photos: readonly PrintedPhoto[];
  formats: Formats;
}) {
  const { visit, ends } = pack;
  if (!ends) throw new RangeError("a job without an answered path cannot be printed");
  const sheet = {
    ...{ planId: pack.planId, linkId: pack.link.id, planName: pack.planName, kind: pack.link.kind },
    ...{ state: pack.link.state, distanceM: pack.distanceM, madeAt: pack.madeAt },
    names: [ends.a.sheet.placeName, ends.b.sheet.placeName] as [string, string],
    ends: { a: ends.a.sheet, b: ends.b.sheet },
  };
  const map =
    pack.country &&
    jobMapDrawing(
      pack.country.map,
      { ...ends.a.sheet.place, name: ends.a.sheet.placeName },
      { ...ends.b.sheet.place, name: ends.b.sheet.placeName },
      pack.country.sites,
    );
  const rows: [string, string][] = [
    ["Work", WORK_WORDS[visit.work]],
    ["When", visit.day === "" ? "no day yet" : `${visit.day}, ${clock(visit.startMinute)}, ${visit.minutes} minutes`],
    ["Weather it waits for", visit.weather || "none named"],
    ["Power off", PERMIT_WORDS[visit.powerOff]],
    ["Permit to climb", PERMIT_WORDS[visit.climb]],
    ["Parts", visit.packed ? "packed" : "not packed yet"],
    ["Neighbours", visit.neighboursTold ? "told" : "not told yet"],
    ["Tools", pack.tools],
    ["Counts as done", "both ends read, locked, and within the band or judged proven; sealed, labelled, photographed"],
    ["Notes", visit.notes],
  ];
  return (
    <Document title={pack.name} author="Tejado">
      <Page size="A4" style={styles.page}>
        <Text style={styles.title}>{pack.name}</Text>
        <Text style={styles.quiet}>
          {pack.planName}, revision {pack.revision} · {formats.distance(pack.distanceM)} · made{" "}
          {pack.madeAt.slice(0, 10)}
        </Text>
        <Rows rows={rows} />
        {problems.map((text) => (
          <Text key={text} style={styles.wrong}>
            {text}
          </Text>
        ))}
        {map && (
          <View wrap={false}>
            <Text style={styles.heading}>The country between</Text>
            <DrawingPdf widthPt={MAP_PT} drawing={map} />
            <Text style={styles.quiet}>{map.says}</Text>
          </View>
        )}
        {END_SIDES.map((side) => (
          <Who key={side} pack={pack} side={side} />
        ))}
        <PhotosPdf photos={photos} />
      </Page>
      <EndPage sheet={sheet} end={ends.a.sheet} other={sheet.names[1]} formats={formats} />
      <EndPage sheet={sheet} end={ends.b.sheet} other={sheet.names[0]} formats={formats} />
    </Document>
  );
}

function Rows({ rows }: { rows: readonly [string, string][] }) {
  return (
    <View style={{ marginTop: 8 }}>
      {rows
        .filter(([, value]) => value !== "")
        .map(([word, value]) => (
          <View key={word} style={styles.row}>
            <Text style={styles.word}>{word}</Text>
            <Text style={styles.value}>{value}</Text>
          </View>
        ))}
    </View>
  );
}

function Who({ pack, side }: { pack: FieldPack; side: EndSide }) {
  const { sheet, crew, address, gateway, place, landmarks, carried } = pack.ends![side];
  const other = pack.ends![side === "a" ? "b" : "a"].sheet;
  const rows: [string, string][] = [
    ["Crew", crew ? `${crew.name}: ${crew.people.split("\n").join(", ")}` : "nobody planned"],
    ["Hand radio", crew?.radioChannel ?? ""],
    ["Telephone", crew?.phone ?? ""],
    ["Hazards", place.hazards],
    ["The way there", place.access],
    ["Address of the radio", address && `${address}${gateway && `, gateway ${gateway}`}`],
    ["Parts", carried?.parts.join("; ") ?? ""],
    ["Weight", carried ? carriedWords(carried) : ""],
    ["By eye", landmarks.map(({ name, bearingDeg }) => `${name} ${bearingDeg.toFixed(0)}° true`).join(", ")],
    ["Mirror flash from", `${sheet.headingTrueDeg.toFixed(0)}° true`],
  ];
  return (
    <>
      <Text style={styles.heading}>{sheet.placeName}</Text>
      <Rows rows={rows} />
      <DrawingPdf
        drawing={sketchOf(
          sheet.placeName,
          { name: other.placeName, bearingDeg: sheet.headingTrueDeg, distanceM: pack.distanceM },
          landmarks,
        )}
      />
    </>
  );
}
