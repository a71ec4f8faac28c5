import type { KitError } from "#formats/kit";
import { Table } from "../ui";

/** Why a file was not taken into the library. */
export function ReadErrors({ name, errors }: { name: string; errors: readonly KitError[] }) {
  return (
    <section role="alert" className="mb-3 rounded border border-blocked p-3 text-sm">
      <p className="font-medium">
        {name} was not taken; the library is as it was. Mend what is told here and bring the file again.
      </p>
      <Table
        caption="What could not be read"
        columns={[{ name: "Row" }, { name: "Field" }, { name: "Value" }, { name: "What is wrong" }]}
      >
        {errors.map(({ row, field, value, reason }, i) => (
          <tr key={i}>
            <td className="figures">{row || "–"}</td>
            <td>{field}</td>
            <td className="figures text-xs">{value || "–"}</td>
            <td>{reason}</td>
          </tr>
        ))}
      </Table>
    </section>
  );
}
