import type { RowError } from "#formats/places";

const MOST_SHOWN = 500;

/** What could not be taken: where, what stood there, and why. */
export function ErrorTable({ errors, rowName }: { errors: RowError[]; rowName: string }) {
  if (errors.length === 0) return null;
  return (
    <div
      className="max-h-72 overflow-y-auto rounded border border-rule bg-panel"
      tabIndex={0}
      role="region"
      aria-label="Left out"
    >
      <table className="w-full text-xs">
        <caption className="px-2 py-1 text-left font-semibold">
          {errors.length} left out{errors.length > MOST_SHOWN ? `, the first ${MOST_SHOWN} shown` : ""}. Mend them in
          the file and bring those again.
        </caption>
        <thead>
          <tr className="text-left text-quiet">
            <th className="px-2 font-normal">{rowName}</th>
            <th className="font-normal">Field</th>
            <th className="font-normal">Value</th>
            <th className="font-normal">Reason</th>
          </tr>
        </thead>
        <tbody>
          {errors.slice(0, MOST_SHOWN).map((error, i) => (
            <tr key={i} className="border-t border-rule">
              <td className="figures px-2">{error.row === 0 ? "file" : error.row}</td>
              <td>{error.field}</td>
              <td className="figures">{error.value}</td>
              <td>{error.reason}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
