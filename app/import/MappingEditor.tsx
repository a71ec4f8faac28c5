import { PLACE_FIELDS, type Mapping } from "#formats/places";
import {
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import { GripVertical } from "lucide-react";
import { useState } from "react";
import type { LoadedTable } from "./places.worker";

function ColumnChip({ index, title, samples }: { index: number; title: string; samples: string[] }) {
  const { attributes, listeners, setNodeRef, transform, isDragging } = useDraggable({ id: `column-${index}` });
  return (
    <li
      ref={setNodeRef}
      style={transform ? { transform: `translate(${transform.x}px, ${transform.y}px)` } : undefined}
      className={`relative flex max-w-52 items-center gap-1 rounded border bg-panel px-1.5 py-1 text-xs ${isDragging ? "z-20 border-clay shadow-lg" : "border-rule"}`}
    >
      <button
        type="button"
        {...listeners}
        {...attributes}
        aria-label={`Drag column ${title}`}
        className="cursor-grab touch-none text-quiet"
      >
        <GripVertical size={13} />
      </button>
      <span className="min-w-0">
        <span className="block truncate font-medium">{title || `column ${index + 1}`}</span>
        <span className="figures block truncate text-quiet">{samples.join(" · ") || "empty"}</span>
      </span>
    </li>
  );
}

function FieldSlot({
  field,
  columns,
  value,
  onChange,
}: {
  field: (typeof PLACE_FIELDS)[number];
  columns: string[];
  value: number | undefined;
  onChange: (column: number | undefined) => void;
}) {
  const { setNodeRef, isOver } = useDroppable({ id: `field-${field.key}` });
  return (
    <label
      ref={setNodeRef}
      className={`flex items-center justify-between gap-2 rounded border px-2 py-0.5 text-xs ${isOver ? "border-clay bg-ground" : value === undefined ? "border-dashed border-rule" : "border-rule"}`}
    >
      <span className={value === undefined ? "text-quiet" : "font-medium"}>{field.label}</span>
      <select
        aria-label={field.label}
        value={value ?? ""}
        onChange={(event) => onChange(event.target.value === "" ? undefined : Number(event.target.value))}
        className="max-w-32 rounded border border-rule bg-panel py-0.5"
      >
        <option value="">not in the file</option>
        {columns.map((title, index) => (
          <option key={index} value={index}>
            {title || `column ${index + 1}`}
          </option>
        ))}
      </select>
    </label>
  );
}

type Field = (typeof PLACE_FIELDS)[number];
const ALWAYS_SHOWN: string[] = ["name", "lat", "lon", "position"];
const GRID = "grid grid-cols-1 gap-1 sm:grid-cols-2 lg:grid-cols-3";

/** Which column is read as what: by choosing it at the field, or by dragging the column there. */
export function MappingEditor({
  table,
  mapping,
  onChange,
}: {
  table: LoadedTable;
  mapping: Mapping;
  onChange: (mapping: Mapping) => void;
}) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor),
  );
  const set = (field: string, column: number | undefined) => {
    const next = { ...mapping };
    if (column === undefined) delete next[field];
    else next[field] = column;
    onChange(next);
  };
  const isLikely = ({ key }: Field) => mapping[key] !== undefined || ALWAYS_SHOWN.includes(key);
  const likely = PLACE_FIELDS.filter(isLikely);
  const further = PLACE_FIELDS.filter((field) => !isLikely(field));
  const [isOpen, setIsOpen] = useState(false);
  const slot = (field: Field) => (
    <FieldSlot
      key={field.key}
      field={field}
      columns={table.columns}
      value={mapping[field.key]}
      onChange={(column) => set(field.key, column)}
    />
  );
  return (
    <DndContext
      sensors={sensors}
      onDragEnd={({ active, over }) => {
        if (over) set(String(over.id).replace("field-", ""), Number(String(active.id).replace("column-", "")));
      }}
    >
      <h3 className="mb-1 text-xs font-semibold text-quiet">
        Columns of the file: drag one onto what it is, or choose below
      </h3>
      <ul className="mb-3 flex flex-wrap gap-1.5">
        {table.columns.map((title, index) => (
          <ColumnChip key={index} index={index} title={title} samples={table.samples[index]!} />
        ))}
      </ul>
      <div className={GRID}>{likely.map(slot)}</div>
      <details className="mt-1" open={isOpen} onToggle={(event) => setIsOpen(event.currentTarget.open)}>
        <summary className="py-1 text-xs text-quiet">{further.length} further fields that the file could hold</summary>
        <div className={GRID}>{further.map(slot)}</div>
      </details>
    </DndContext>
  );
}
