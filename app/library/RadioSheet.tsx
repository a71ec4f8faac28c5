import type { Need } from "#core/kit";
import { netRateMbps, sensitivityDbm, type RadioModel } from "#core/radio";
import { counted } from "#core/words";
import { boxText } from "./boxText";
import { euros, figure, Table, Term } from "../ui";

const AIDS: Record<RadioModel["alignmentAid"], string> = {
  none: "none",
  leds: "LEDs",
  tone: "tone",
  meter: "meter on its jack",
  page: "page of the radio",
};

/** One radio's data: facts, what it needs beside itself, then for every width and modulation what it asks for and gives. */
export function RadioSheet({ radio, needs }: { radio: RadioModel; needs: Need[] }) {
  const facts: [string, string][] = [
    ["Use", radio.use],
    ["Band", `${radio.bandMHz[0]}–${radio.bandMHz[1]} MHz, centres every ${radio.rasterMHz} MHz`],
    [
      "Power",
      `${figure(radio.powerMinDbm, 0)} to ${figure(radio.powerMaxDbm, 0)} dBm, all chains together, in steps of ${radio.powerStepDb} dB; set ${radio.powerSetting === "total" || radio.chains === 1 ? "as this total" : "for each chain"}`,
    ],
    ["Noise figure", `${figure(radio.noiseFigureDb)} dB`],
    ["Chains", String(radio.chains)],
    [
      "Duplex",
      radio.duplex === "FDD"
        ? `FDD: both directions at once, ${radio.duplexSpacingMHz === null ? "how far apart is not on the sheet" : `${figure(radio.duplexSpacingMHz, 0)} MHz apart`}`
        : `TDD: ${Math.round(radio.downShare * 100)} % of the frame away from the access point`,
    ],
    ["Net of overhead", `${Math.round(radio.efficiency * 100)} % of the raw rate`],
    ["Range by timing", `${figure(radio.rangeLimitKm, 0)} km`],
    ["Adjacent-channel rejection", `${figure(radio.adjacentRejectionDb, 0)} dB`],
    ["Overload", `from ${figure(radio.overloadDbm, 0)} dBm on a chain`],
    ["Clients", String(radio.clientLimit)],
    [
      "Power input",
      `${radio.powerInput}, at most ${figure(radio.loadW)} W${radio.startW === null ? "" : `, ${figure(radio.startW)} W for a moment as it starts`}`,
    ],
    ["Earth lead", `at least ${figure(radio.earthMm2, 0)} mm², and what the local code asks`],
    ["Also in its box", boxText(radio.box).replaceAll("\n", "; ") || "nothing that is known"],
    ["Delivery", radio.deliveryDays === null ? "not known" : counted(radio.deliveryDays, "day")],
    ["Antennas are joined by", radio.joins.join(" or ") || "not on the sheet"],
    ["Ports", radio.ports.join(", ") || "not on the sheet"],
    ["Fastest socket", radio.portMbps === null ? "not on the sheet" : `${figure(radio.portMbps, 0)} Mbit/s each way`],
    ["Leaves its box at", radio.boxAddress],
    ["Pole", `${radio.poleMm[0]}–${radio.poleMm[1]} mm`],
    [
      "Alignment aid",
      `${AIDS[radio.alignmentAid]}${radio.meterVoltsPerDbm === null ? "" : `, ${figure(radio.meterVoltsPerDbm, 3)} V per dBm`}`,
    ],
    ["Adaptive antenna", radio.steersBeam ? "turns its receive beam" : "cannot turn one"],
    ["Weight, price", `${figure(radio.weightKg)} kg, ${euros(radio.priceEur)}`],
  ];
  return (
    <div className="space-y-4">
      <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-0.5 text-[13px]">
        {facts.map(([name, value]) => (
          <div key={name} className="contents">
            <dt className="text-quiet">{name}</dt>
            <dd>{value}</dd>
          </div>
        ))}
      </dl>
      <section>
        <h2 className="mb-1 font-semibold">What it needs, and what fits</h2>
        <Table
          caption="What it needs, and what fits"
          columns={[
            { name: "Needs", width: "16%" },
            { name: "It has to be", width: "42%" },
            { name: "Of this library, cheapest first", width: "42%" },
          ]}
        >
          {needs.map(({ what, asked, isBoxed, fits }) => (
            <tr key={what}>
              <td className="font-semibold">{what}</td>
              <td>{asked}</td>
              <td>
                {isBoxed && <span className="text-quiet">lies in the box{fits.length > 0 && "; else "}</span>}
                {fits.join(", ") || (!isBoxed && <span className="text-tight">nothing that fits</span>)}
              </td>
            </tr>
          ))}
        </Table>
      </section>
      <section>
        <h2 className="mb-1 font-semibold">Modulations by width</h2>
        <div className="overflow-x-auto">
          <table className="w-full text-[13px]">
            <thead>
              <tr className="text-right text-xs text-quiet [&_th]:pr-3 [&_th]:font-normal">
                <th className="text-left" rowSpan={2}>
                  Modulation
                </th>
                <th rowSpan={2}>SNR</th>
                <th rowSpan={2}>
                  <Term meaning="How far the transmitter must stay under its full power, so that the signal stays clean.">
                    Back-off
                  </Term>
                </th>
                {radio.widthsMHz.map((width) => (
                  <th key={width} colSpan={2} className="border-l border-rule text-center">
                    {width} MHz
                  </th>
                ))}
              </tr>
              <tr className="text-right text-[11px] text-quiet [&_th]:pr-3 [&_th]:font-normal">
                {radio.widthsMHz.map((width) => (
                  <Pair key={width} />
                ))}
              </tr>
            </thead>
            <tbody>
              {radio.modulations.map((modulation) => (
                <tr
                  key={modulation.name}
                  className="border-t border-rule [&_td]:figures [&_td]:pr-3 [&_td]:text-right [&_td]:text-xs"
                >
                  <th scope="row" className="py-0.5 pr-3 text-left font-normal">
                    {modulation.name}
                  </th>
                  <td>{figure(modulation.snrDb, 0)} dB</td>
                  <td>{figure(modulation.backoffDb, 0)} dB</td>
                  {radio.widthsMHz.map((widthMHz) => (
                    <Cells key={widthMHz} radio={radio} widthMHz={widthMHz} modulation={modulation} />
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
        <p className="mt-1 text-xs text-quiet">
          Sensitivity: −173.975 dBm/Hz + 10 log₁₀(width) + noise figure + SNR. Rates are net, away from the access point
          / toward it, all chains.
        </p>
      </section>
    </div>
  );
}

function Pair() {
  return (
    <>
      <th className="border-l border-rule pl-2">dBm</th>
      <th>Mbit/s</th>
    </>
  );
}

function Cells({
  radio,
  widthMHz,
  modulation,
}: {
  radio: RadioModel;
  widthMHz: number;
  modulation: RadioModel["modulations"][number];
}) {
  const rate = (direction: "down" | "up") =>
    netRateMbps({ radio, modulation, widthMHz, chains: radio.chains, direction });
  return (
    <>
      <td className="border-l border-rule">{figure(sensitivityDbm(radio, widthMHz, modulation), 0)}</td>
      <td>
        {figure(rate("down"), 0)}/{figure(rate("up"), 0)}
      </td>
    </>
  );
}
