import { SelectField, TextField } from "../ui";
import { MappingEditor } from "./MappingEditor";
import type { PlacesImporting } from "./usePlacesImport";

/** What the columns of a table mean, and what holds for rows that do not say. */
export function PlacesMapping({
  importing: { name, table, mapping, changeMapping, defaultKind, setDefaultKind, zone, setZone, nearM, setNearM },
}: {
  importing: PlacesImporting;
}) {
  if (!table) return null;
  return (
    <div className="rounded border border-rule bg-panel p-3">
      <p className="mb-2 text-sm">
        <strong>{name}</strong>: {table.found}, {table.rowCount} rows.
      </p>
      <MappingEditor table={table} mapping={mapping} onChange={changeMapping} />
      <div className="mt-3 grid grid-cols-3 gap-3">
        <SelectField
          label="Rows that do not say are"
          value={defaultKind}
          onChange={(event) => setDefaultKind(event.target.value as "site" | "subscriber")}
        >
          <option value="subscriber">subscribers</option>
          <option value="site">sites</option>
        </SelectField>
        <TextField
          label="UTM zone where not given"
          placeholder="25S"
          value={zone}
          onChange={(event) => setZone(event.target.value)}
        />
        <TextField
          label="Perhaps the same within"
          unit="m"
          value={nearM}
          inputMode="decimal"
          onChange={(event) => setNearM(event.target.value)}
        />
      </div>
    </div>
  );
}
