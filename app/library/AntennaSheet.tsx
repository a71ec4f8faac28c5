import {
  antennaFigures,
  groundFootprintM,
  hearingKm,
  peakGainDbi,
  type AntennaFigures,
  type AntennaModel,
  directivityDbi,
  gainBeyondPatternDb,
} from "#core/antenna";
import { thermalNoiseDbm } from "#core/propagation";
import { useState, type ReactNode } from "react";
import { euros, figure, NumberField, Term, useFormats } from "../ui";
import { COMPARE_LINES } from "./lines";
import { PolarPlot, type PolarCurve } from "./PolarPlot";

/** Thermal noise of 20 MHz at a noise figure of 6 dB. */
const QUIET_FLOOR_DBM = Math.round(thermalNoiseDbm({ bandwidthMHz: 20, noiseFigureDb: 6 }));

const nameOf = ({ maker, model }: AntennaModel) => `${maker} ${model}`;

function curvesOf(antennas: AntennaModel[], plane: "azimuth" | "elevation"): PolarCurve[] {
  const cuts = (antenna: AntennaModel) => (plane === "azimuth" ? antenna.azimuthCuts : antenna.elevationCuts);
  if (antennas.length === 1) {
    const [one] = antennas as [AntennaModel];
    return [
      { name: "vertical", cut: cuts(one).V, underDb: 0, ...COMPARE_LINES[0] },
      { name: "horizontal", cut: cuts(one).H, underDb: 0, ...COMPARE_LINES[1] },
    ];
  }
  const gains = antennas.map((antenna) => peakGainDbi(antenna, (antenna.bandMHz[0] + antenna.bandMHz[1]) / 2, "V"));
  const most = Math.max(...gains);
  return antennas.map((antenna, i) => ({
    name: nameOf(antenna),
    cut: cuts(antenna).V,
    underDb: most - gains[i]!,
    ...COMPARE_LINES[i]!,
  }));
}

/** Which line is whose. */
function Legend({ curves }: { curves: PolarCurve[] }) {
  return (
    <ul className="flex flex-wrap gap-x-4 text-xs">
      {curves.map(({ name, colour, dash }) => (
        <li key={name} className="flex items-center gap-1.5">
          <svg width="28" height="8" aria-hidden="true">
            <path d="M1 4H27" stroke={colour} strokeWidth="2" strokeDasharray={dash} />
          </svg>
          {name}
        </li>
      ))}
      <li className="flex items-center gap-1.5 text-quiet">
        <svg width="10" height="10" aria-hidden="true">
          <path d="M5 0V10" stroke="var(--clay)" strokeWidth="2" />
        </svg>
        −3, −6 and −12 dB of the first
      </li>
    </ul>
  );
}

const degrees = (value: number) => (value >= 360 ? "all round" : `${figure(value, value < 10 ? 1 : 0)}°`);

/** One row of the sheet: a name, and a value for each antenna. */
type SheetRow = [name: ReactNode, value: (antenna: AntennaModel, figures: AntennaFigures, i: number) => ReactNode];

function widthRows(): SheetRow[] {
  const cut = (figures: AntennaFigures, plane: string, polarization: string) =>
    figures.cuts.find((one) => one.plane === plane && one.polarization === polarization)!;
  return (["azimuth", "elevation"] as const).flatMap((plane): SheetRow[] => [
    ...(["V", "H"] as const).map((polarization): SheetRow => [
      `Width in ${plane}, ${polarization}: −3 / −6 / −12 dB`,
      (_, figures) => cut(figures, plane, polarization).widthsDeg.map(degrees).join(" / "),
    ]),
    [
      `First side lobe in ${plane}, V`,
      (_, figures) => {
        const lobe = cut(figures, plane, "V").sideLobe;
        return lobe ? `${figure(lobe.belowDb, 0)} dB down at ${figure(lobe.offsetDeg)}°` : "none on the sheet";
      },
    ],
  ]);
}

/** The sheets of one to four antennas beside each other: both cuts, every figure, and where they hear. */
export function AntennaSheet({
  antennas,
  radios,
  uses,
}: {
  antennas: AntennaModel[];
  /** Of each by its id the names of radios that it can be joined to. */
  radios: Record<string, string[]>;
  uses: Record<string, number>;
}) {
  const formats = useFormats();
  const [heightM, setHeightM] = useState(25);
  const [tiltDeg, setTiltDeg] = useState(0);
  const [eirpDbm, setEirpDbm] = useState(36);
  const all = antennas.map((antenna) => ({ antenna, figures: antennaFigures(antenna) }));
  const hears = (antenna: AntennaModel, azimuthDeg: number) => {
    const frequencyMHz = (antenna.bandMHz[0] + antenna.bandMHz[1]) / 2;
    const km = hearingKm(antenna, azimuthDeg, { eirpDbm, noiseDbm: QUIET_FLOOR_DBM, frequencyMHz });
    return formats.roughDistance(km * 1000);
  };
  const rows: SheetRow[] = [
    ["Shape", ({ shape }) => shape],
    ["Band", ({ bandMHz }) => `${figure(bandMHz[0], 0)}–${figure(bandMHz[1], 0)} MHz`],
    [
      "Gain V at the band’s edges and middle",
      (_, { gains }) => `${gains.map(({ vDbi }) => figure(vDbi)).join(" / ")} dBi`,
    ],
    [
      <Term
        key="directivity"
        meaning="What the cuts allow at most: the whole sphere over the mean of the pattern. No antenna has more gain than that, so a sheet that does contradicts itself."
      >
        Directivity of its cuts, V / H
      </Term>,
      (antenna) => {
        const beyondDb = gainBeyondPatternDb(antenna);
        const text = `${figure(directivityDbi(antenna, "V"))} / ${figure(directivityDbi(antenna, "H"))} dBi`;
        return beyondDb > 0 ? `${text}: the stated gain is ${figure(beyondDb)} dB more than its cuts allow` : text;
      },
    ],
    ["Gain H", (_, { gains }) => `${gains.map(({ hDbi }) => figure(hDbi)).join(" / ")} dBi`],
    [
      <Term
        key="flat"
        meaning="How far the gain falls within the band. A peak reached at one frequency is worth less than a flat gain."
      >
        Flatness across the band
      </Term>,
      (_, { flatnessDb }) => `${figure(flatnessDb)} dB`,
    ],
    ...widthRows(),
    [
      "Front to back",
      ({ frontToBackDb }, { cuts }) =>
        `${figure(Math.min(...cuts.filter(({ plane }) => plane === "azimuth").map((cut) => cut.frontToBackDb)), 0)} dB in its cuts, ${figure(frontToBackDb, 0)} stated`,
    ],
    [
      <Term
        key="chains"
        meaning="One chain above the other at the edge of the beam, where the two polarizations no longer overlap. Customers there see unequal chains."
      >
        Chain imbalance at the beam’s edge
      </Term>,
      (_, { imbalance }) =>
        `at ±${figure(imbalance.atDeg, 0)}°: ${figure(Math.max(Math.abs(imbalance.leftDb), Math.abs(imbalance.rightDb)))} dB`,
    ],
    ["Joined to its radio by", ({ join }) => join ?? "not on the sheet"],
    ["Radios of this library that it fits", ({ id }) => radios[id]?.join(", ") || "none"],
    ["Isolation of the polarizations", ({ crossPolarDb }) => `${figure(crossPolarDb, 0)} dB`],
    [
      "A pointing error costs",
      (_, { pointing }) =>
        pointing.map(({ errorDeg, lossDb }) => `${errorDeg}°: ${figure(lossDb)}`).join(" · ") + " dB",
    ],
    [
      "Electrical tilt; bracket",
      ({ electricalTiltDownDeg, bracketUpDeg, bracketDownDeg }) =>
        `${figure(electricalTiltDownDeg, 0)}° down; ${figure(bracketUpDeg, 0)}° up to ${figure(bracketDownDeg, 0)}° down`,
    ],
    [
      "Receive beam",
      ({ receiveBeam }) =>
        receiveBeam
          ? `${figure(receiveBeam.widthDeg, 0)}° wide, ${figure(receiveBeam.gainDb)} dB more, ±${figure(receiveBeam.steersDeg, 0)}°, side lobes ${figure(receiveBeam.sideLobesDb, 0)} dB down`
          : "none: listens as it sends",
    ],
    ["Weight, price", ({ weightKg, priceEur }) => `${figure(weightKg)} kg, ${euros(priceEur)}`],
    ["In this plan", ({ id }) => (uses[id] ? `${uses[id]} in use` : "not in use")],
  ];
  const hearing: SheetRow[] = [
    ["ahead", (antenna) => hears(antenna, 0)],
    ["45° beside", (antenna) => hears(antenna, 45)],
    ["90° beside", (antenna) => hears(antenna, 90)],
    ["behind", (antenna) => hears(antenna, 180)],
  ];
  const ground: SheetRow[] = [
    ["lower −3 dB edge meets it at", (antenna) => formats.distance(groundFootprintM(antenna, heightM, tiltDeg).nearM)],
    [
      "middle of the beam",
      (antenna) => {
        const { middleM } = groundFootprintM(antenna, heightM, tiltDeg);
        return middleM === null ? "over the horizon" : formats.distance(middleM);
      },
    ],
    [
      "upper −3 dB edge",
      (antenna) => {
        const { farM } = groundFootprintM(antenna, heightM, tiltDeg);
        return farM === null ? "over the horizon" : formats.distance(farM);
      },
    ],
  ];
  const table = (caption: string, list: SheetRow[]) => (
    <table className="w-full text-[13px]">
      <caption className="sr-only">{caption}</caption>
      {antennas.length > 1 && (
        <thead>
          <tr className="text-left text-xs">
            <th />
            {antennas.map((antenna) => (
              <th key={antenna.id} className="py-1 pr-3 font-semibold">
                {nameOf(antenna)}
              </th>
            ))}
          </tr>
        </thead>
      )}
      <tbody>
        {list.map(([name, value], row) => (
          <tr key={row} className="border-t border-rule">
            <th scope="row" className="py-0.5 pr-3 text-left font-normal text-quiet">
              {name}
            </th>
            {all.map(({ antenna, figures }, i) => (
              <td key={antenna.id} className="figures py-0.5 pr-3 text-xs">
                {value(antenna, figures, i)}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
  const azimuth = curvesOf(antennas, "azimuth");
  return (
    <div className="space-y-4">
      <Legend curves={azimuth} />
      <div className="flex flex-wrap gap-6">
        <div className="w-80">
          <PolarPlot plane="azimuth" title="Azimuth" curves={azimuth} />
        </div>
        <div className="w-80">
          <PolarPlot plane="elevation" title="Elevation" curves={curvesOf(antennas, "elevation")} />
        </div>
      </div>
      {table("Figures", rows)}
      <section>
        <h2 className="mb-1 font-semibold">Where it hears</h2>
        <div className="mb-1 grid max-w-xl grid-cols-3 gap-3">
          <NumberField
            label="A transmitter aimed here"
            unit="dBm"
            value={eirpDbm}
            step={1}
            min={0}
            max={80}
            decimals={0}
            onChange={setEirpDbm}
          />
          <NumberField
            label="Mast"
            unit="m"
            value={heightM}
            step={1}
            min={1}
            max={300}
            decimals={0}
            onChange={setHeightM}
          />
          <NumberField
            label="Bracket tilt, down"
            unit="°"
            value={tiltDeg}
            step={0.5}
            min={-30}
            max={30}
            onChange={setTiltDeg}
          />
        </div>
        <p className="mb-1 text-xs text-quiet">
          Such a transmitter arrives as strong as a quiet 20 MHz floor of {figure(QUIET_FLOOR_DBM, 0)} dBm from as far
          as this, were there no hills and no horizon; power can be turned down, hearing cannot.
        </p>
        {table("How far it hears", hearing)}
        <p className="mt-2 mb-1 text-xs text-quiet">On flat ground, electrical tilt counted in:</p>
        {table("Where the beam meets the ground", ground)}
      </section>
      <p className="text-xs text-quiet">
        Between the cuts a direction loses the sum of both, never more than front to back: exact on the cuts, too much
        far from both. Dual polarizations take the mean of the two.
      </p>
    </div>
  );
}
