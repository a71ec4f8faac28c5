import { eirpWords, FLAG_WORDS, LICENCE_WORDS, type Rule } from "#core/regulation";
import { figure } from "../ui";

const USES: Record<Rule["use"], string> = { any: "any", ptp: "point to point", ptmp: "point to multipoint" };
/** A gain at which every kind of rule says its full text. */
const HIGH_GAIN_DBI = 60;

const density = (one: Rule["eirpDensity"]) =>
  one
    ? `${figure(one.dbm, 0)} dBm per ${one.perMHz < 1 ? `${one.perMHz * 1000} kHz` : `${one.perMHz} MHz`}${one.freeGainDbi === null ? "" : `, a dB less per dBi over ${one.freeGainDbi}`}`
    : "–";

/** The rules of a set as they are stored, each with its source. */
export function RuleTable({ rules }: { rules: readonly Rule[] }) {
  if (rules.length === 0) return <p className="text-sm text-quiet">No rules yet.</p>;
  return (
    <div className="overflow-x-auto">
      <table className="w-full text-[13px]">
        <thead>
          <tr className="text-left text-xs text-quiet [&_th]:pr-3 [&_th]:font-normal">
            <th>MHz</th>
            <th>Use</th>
            <th>EIRP</th>
            <th>Conducted</th>
            <th>Density</th>
            <th>Above 30°</th>
            <th>Channels</th>
            <th>Terms</th>
            <th>Source</th>
          </tr>
        </thead>
        <tbody>
          {rules.map((rule, i) => (
            <tr key={i} className="border-t border-rule align-top [&_td]:py-0.5 [&_td]:pr-3 [&_td]:text-xs">
              <td className="figures whitespace-nowrap">
                {rule.bandMHz[0]}–{rule.bandMHz[1]}
              </td>
              <td>{USES[rule.use]}</td>
              <td>{eirpWords(rule.eirp, HIGH_GAIN_DBI)}</td>
              <td className="figures">
                {rule.conductedDbm === null ? "–" : `${figure(rule.conductedDbm, 0)} dBm`}
                {rule.conductedByWidthDbm !== null && ` or ${figure(rule.conductedByWidthDbm, 0)} + 10 log B`}
              </td>
              <td>
                {rule.eirpDensity ? `${density(rule.eirpDensity)} EIRP` : ""}
                {rule.conductedDensity ? `${density(rule.conductedDensity)} conducted` : ""}
                {!rule.eirpDensity && !rule.conductedDensity && "–"}
              </td>
              <td className="figures">{rule.above30DegDbm === null ? "–" : `${figure(rule.above30DegDbm, 0)} dBm`}</td>
              <td>
                {rule.widthsMHz.length > 0 ? `${rule.widthsMHz.join(", ")} MHz` : "as the radio"}
                {rule.rasterMHz !== null && `, every ${rule.rasterMHz}`}
              </td>
              <td>{[LICENCE_WORDS[rule.licence], ...rule.flags.map((flag) => FLAG_WORDS[flag])].join(", ")}</td>
              <td>{rule.source}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
