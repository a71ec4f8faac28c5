import { refusedUsually } from "../refused";

/** Thrown when an archive is no plan; the message names file, row and field. */
export class ArchiveError extends refusedUsually("Bring the archive as Tejado wrote it, or have it written anew.") {}
