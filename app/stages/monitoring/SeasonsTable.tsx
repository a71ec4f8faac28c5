import { SEASONS, seasonsOf, type LinkMonth, type LinkSeason, type Season } from "#core/watch";
import { signedFigure, Table } from "../../ui";
import { shareOfTime } from "../../ui/WatchMark";

/** A link's seasons side by side, year by year: what leaves, snow and summer's air do to it. */
export function SeasonsTable({ months, latDeg }: { months: readonly LinkMonth[]; latDeg: number }) {
  const seasons = seasonsOf(months, latDeg);
  const years = [...new Set(seasons.map(({ year }) => year))];
  if (seasons.length < 2) return null;
  const of = (season: Season, year: number) => seasons.find((one) => one.season === season && one.year === year);
  return (
    <div data-seasons={seasons.length}>
      <h3 className="text-xs font-semibold">Seasons: dB off the promise for that time of the year, and hours up</h3>
      <Table
        caption="Seasons of the link"
        columns={[{ name: "Season" }, ...years.map((year) => ({ name: String(year), isNumber: true }))]}
      >
        {SEASONS.map((season) => (
          <tr key={season}>
            <td>{season}</td>
            {years.map((year) => (
              <td key={year} className="figures text-right whitespace-nowrap">
                {textOf(of(season, year))}
              </td>
            ))}
          </tr>
        ))}
      </Table>
    </div>
  );
}

const textOf = (one: LinkSeason | undefined): string =>
  one
    ? `${one.deviationDb === null ? "–" : `${signedFigure(one.deviationDb)} dB`}, ${shareOfTime(one.upPercent)} %`
    : "–";
