import { FileRefused, type RefusedOptions } from "../refused";

/** Thrown when an archive is no plan; the message names file, row and field. */
export class ArchiveError extends FileRefused {
  constructor(message: string, { todo = USUAL_TODO, ...options }: RefusedOptions = {}) {
    super(message, { todo, ...options });
  }
}
const USUAL_TODO = "Bring the archive as Tejado wrote it, or have it written anew.";
