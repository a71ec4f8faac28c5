/** Thrown when an archive is no plan; the message names file, row and field. */
export class ArchiveError extends Error {}
