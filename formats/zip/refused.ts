import { refusedUsually } from "../refused";

/** Thrown when an archive asks for more than it may have, or names files outside itself. */
export class ZipRefused extends refusedUsually("Pack it anew with nothing in it but what is to be read.") {}

/** What is wrong with the name of an entry; null where it lies within the archive. */
export function entryProblem(name: string): string | null {
  const leaves =
    name.startsWith("/") ||
    name.includes("\\") ||
    name.includes("\0") ||
    /^[a-z]:/i.test(name) ||
    name.split("/").includes("..");
  return leaves ? `the archive's entry "${name.slice(0, 120)}" points outside of it` : null;
}
