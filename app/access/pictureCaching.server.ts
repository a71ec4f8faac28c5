import { whoAsks } from "#accounts";

/** How long a browser may keep a picture or a recording: not at all where people sign in and out of it. */
export const pictureCaching = (): string => (whoAsks() ? "no-store" : "private, max-age=86400, immutable");
