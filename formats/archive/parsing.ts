import { plainIssue } from "#core/plan";
import type { z } from "zod";
import { readJson } from "../text";
import { ArchiveError } from "./error";

/** The files of an archive by their names. */
export type ArchiveFiles = Pick<ReadonlyMap<string, Uint8Array>, "get" | "has">;

/** The first fault of a file: where it is, and what is wrong there. */
export function said({ issues }: z.ZodError): string {
  const [first] = issues;
  return `${first!.path.join(".")} ${plainIssue(first!)}`.trim();
}

/** A file of an archive as text. Throws ArchiveError where it is not there. */
export function textOf(files: ArchiveFiles, name: string): string {
  const bytes = files.get(name);
  if (!bytes) throw new ArchiveError(`the archive has no ${name}`);
  return new TextDecoder().decode(bytes);
}

/** A file of an archive as JSON. Throws ArchiveError where it is not there or is none. */
export function json(files: ArchiveFiles, name: string): unknown {
  const { value, problem } = readJson(textOf(files, name));
  if (problem) throw new ArchiveError(`${name} ${problem}`);
  return value;
}
