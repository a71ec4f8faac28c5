import { jsonSchemaOf, ROW_KINDS } from "#core/plan";

/** The published JSON schemas of a plan's rows by kind, as archives hold them: each field's label, unit, help and bounds. */
export function loader() {
  const schemas = Object.fromEntries(ROW_KINDS.map((kind) => [kind, jsonSchemaOf(kind)]));
  return Response.json({ $defs: schemas }, { headers: { "Content-Type": "application/schema+json" } });
}
