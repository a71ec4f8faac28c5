import { readSamples } from "#formats/samples";
import { decodeText, JsonMeter, readJson } from "#formats/text";
const rows = Array.from({ length: 50000 }, (_, i) => ({ series: `link-${i}/a`, at: "2026-12-01T00:00:00Z", level0Dbm: -61, noiseDbm: -92, rateMbps: 50 }));
const t = (n: string, f: () => unknown) => { const a = performance.now(); let e = ""; try { f(); } catch (x) { e = String(x); } console.log(n, (performance.now() - a).toFixed(0), e.slice(0,80)); };
const b = Buffer.from(JSON.stringify(rows));
const csv = Buffer.from("series,at,level0Dbm\n" + rows.map((r) => `${r.series},${r.at},-61`).join("\n"));
for (let k = 0; k < 3; k++) {
  t("meter", () => console.log(new JsonMeter().take(b)));
  t("decode", () => decodeText(b));
  const { text } = decodeText(b);
  t("readJson", () => readJson(text));
  t("parse", () => JSON.parse(text));
  t("json", () => readSamples(b, false));
  t("csv", () => readSamples(csv, true));
}
