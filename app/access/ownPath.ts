/** A path of ours to go back to; anything else, and whatever a browser might read as another host, is the first page. */
export function ownPath(path: unknown): string {
  if (typeof path !== "string" || !/^\/[\w\-./~%?=&:,+@]*$/.test(path) || path.startsWith("//")) return "/";
  const base = "http://own.invalid";
  if (!URL.canParse(path, base)) return "/";
  const url = new URL(path, base);
  return url.origin === base && !url.pathname.startsWith("//") ? url.pathname + url.search : "/";
}
