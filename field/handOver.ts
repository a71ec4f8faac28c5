import type { Entry } from "./keep";

/** What an entry says, in words that need no Tejado to be read. */
export function entryWords({ op, photo, voice }: Entry): string {
  if (photo) return "A photograph";
  const note = voice?.note ?? (op && "note" in op ? op.note : null);
  if (voice) return `A recording of ${note?.value ?? 0} s`;
  if (op && "patch" in op) return `${op.what}: ${Object.values(op.patch.set).map(String).join(", ")}`;
  if (!note) return "";
  const { kind, key, text, value, levelDbm, isOn } = note;
  const parts = [key, text, value === null ? "" : String(value), levelDbm === null ? "" : `${levelDbm} dBm`];
  return `${kind}: ${parts.filter(Boolean).join(", ")}${isOn ? "" : " (taken back)"}`;
}

const asDataUrl = (blob: Blob): Promise<string> =>
  new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(reader.result as string);
    reader.onerror = () => reject(new Error("The phone cannot read what it holds."));
    reader.readAsDataURL(blob);
  });

/** Entries as one page that any browser opens, pictures and recordings in it: what the desk does not take is handed over by hand. */
export async function handOverPage(planName: string, entries: readonly Entry[]): Promise<Blob> {
  const page = document.implementation.createHTMLDocument(`${planName}: what a phone could not send`);
  const add = (parent: HTMLElement, name: string, text: string) => {
    const made = page.createElement(name);
    made.textContent = text;
    parent.append(made);
    return made;
  };
  add(page.body, "h1", page.title);
  add(page.body, "p", `${entries.length} entries, as of ${new Date().toISOString()}.`);
  const list = add(page.body, "ol", "");
  for (const entry of entries) {
    const { at, visitId, writer, message } = entry;
    const line = add(list, "li", `${at}, ${writer?.name ?? "somebody"}, job ${visitId}: ${entryWords(entry)}`);
    if (message) add(line, "p", message);
    for (const [name, blob] of [
      ["img", entry.photo?.blob],
      ["audio", entry.voice?.blob],
    ] as const) {
      if (!blob) continue;
      const shown = add(line, name, "");
      shown.setAttribute("src", await asDataUrl(blob));
      shown.setAttribute("style", "display:block;max-width:100%");
      if (name === "audio") shown.setAttribute("controls", "");
    }
  }
  return new Blob([`<!doctype html>\n${page.documentElement.outerHTML}`], { type: "text/html" });
}
