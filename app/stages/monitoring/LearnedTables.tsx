import { areaOfTerm, termName, type Taught } from "#core/learn";
import type { TaughtBy } from "#core/calibration";
import type { ReactNode } from "react";
import { figure, signedFigure, Table } from "../../ui";

/** Readings that stray by more than this many times what is usual do not agree with the rest. */
const DISAGREES = 2.5;
const MOST_ROWS = 60;

/** What was found for each term of a correction, those that hold everywhere first. */
export function LearnedTerms({ caption, terms }: { caption: string; terms: Taught["terms"] }) {
  const isOfArea = ({ key }: Taught["terms"][number]) => areaOfTerm(key) !== null;
  const ordered = [...terms.filter((term) => !isOfArea(term)), ...terms.filter(isOfArea)];
  return (
    <>
      <Table
        caption={caption}
        columns={[
          { name: "Term" },
          { name: "dB", isNumber: true },
          { name: "give or take", isNumber: true },
          { name: "Readings", isNumber: true },
        ]}
      >
        {ordered.slice(0, MOST_ROWS).map(({ key, value, sd, readings }) => (
          <tr key={key}>
            <td>{termName(key)}</td>
            <td className="figures text-right">{signedFigure(value, 2)}</td>
            <td className="figures text-right">{figure(sd, 2)}</td>
            <td className="figures text-right">{readings}</td>
          </tr>
        ))}
      </Table>
      {ordered.length > MOST_ROWS && (
        <p className="text-xs text-quiet">{ordered.length - MOST_ROWS} more areas are not listed.</p>
      )}
    </>
  );
}

/** The season of a reading through trees that shed, as words that go on. */
function leavesWords(leaves: number | null): string {
  if (leaves === null) return "";
  if (leaves > 0.8) return ", in leaf";
  return leaves < 0.2 ? ", bare" : `, ${Math.round(leaves * 100)} % of the leaves`;
}

/** Readings with their errors before and after, those that disagree first. */
export function LearnedErrors<T extends TaughtBy>({
  caption,
  taughtBy,
  what,
}: {
  caption: string;
  taughtBy: readonly T[];
  what: (linkId: string, one: T) => ReactNode;
}) {
  return (
    <>
      <Table
        caption={caption}
        columns={[
          { name: "Of" },
          { name: "From" },
          { name: "Physics alone, dB", isNumber: true },
          { name: "With the others' lesson, dB", isNumber: true },
          { name: "" },
        ]}
      >
        {taughtBy.slice(0, MOST_ROWS).map((one, i) => (
          <tr key={i}>
            <td>{what(one.linkId, one)}</td>
            <td>
              {one.from}
              {leavesWords(one.leaves)}
            </td>
            <td className="figures text-right">{signedFigure(one.physicsErrorDb)}</td>
            <td className="figures text-right">{signedFigure(one.learnedErrorDb)}</td>
            <td>{one.strays > DISAGREES ? "✕ disagrees" : ""}</td>
          </tr>
        ))}
      </Table>
      {taughtBy.length > MOST_ROWS && (
        <p className="text-xs text-quiet">{taughtBy.length - MOST_ROWS} that agree better are not listed.</p>
      )}
    </>
  );
}
