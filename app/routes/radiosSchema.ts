import { radioFileSchema } from "#formats/kit";

/** The published JSON schema of a file of radios. */
export function loader() {
  return Response.json(radioFileSchema(), { headers: { "Content-Type": "application/schema+json" } });
}
