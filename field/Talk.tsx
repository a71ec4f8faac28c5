import { DESK, inOrder } from "#core/crews";
import { localTime, type Here } from "./here";
import { Big, Box } from "./parts";
import { Speak, Spoken } from "./Speak";
import { useField } from "./useField";
import { useTyped } from "./useTyped";

/** Words between both ends and the desk; they go when there is signal. */
export function Talk({ pack, side, here, there, notes }: Here) {
  const field = useField();
  const [text, setText] = useTyped({ pack, side }, "message");
  const messages = inOrder(notes).filter(({ kind }) => kind === "message" || kind === "voice");
  const waiting = new Map(field.entries.map(({ id, voice }) => [id, voice?.blob ?? null]));
  const unsent = new Set(field.entries.filter(({ state }) => state === "waiting").map(({ id }) => id));
  const say = () => {
    void field.note(pack, { side, kind: "message", text: text.trim() });
    setText("");
  };
  return (
    <section aria-label="Talk">
      <ul className="space-y-2" aria-live="polite">
        {messages.map((note) => (
          <li
            key={note.id}
            className={`max-w-[85%] rounded-lg border-2 border-rule bg-panel p-2 ${note.side === side && note.key !== DESK ? "ml-auto" : ""}`}
          >
            {note.kind === "voice" ? (
              <Spoken
                blob={waiting.get(note.id) ?? null}
                url={`/plans/${encodeURIComponent(pack.planId)}/field/voices/${note.id}`}
                by={note.by}
                at={note.at}
              />
            ) : (
              note.text
            )}
            <span className="block text-sm text-quiet">
              {note.by || "somebody"} at{" "}
              {note.key === DESK ? "the desk" : (note.side === side ? here : there).sheet.placeName},{" "}
              {localTime(note.at)}
              {unsent.has(note.id) && " · not sent yet"}
            </span>
          </li>
        ))}
      </ul>
      {messages.length === 0 && <p className="text-quiet">Nothing was said yet. Without signal use the hand radio.</p>}
      <form
        className="mt-3 flex items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (text.trim() !== "") say();
        }}
      >
        <Box label="Say" isText maxLength={1000} value={text} onChange={({ target }) => setText(target.value)} />
        <Big type="submit" look="primary" disabled={text.trim() === ""}>
          Say
        </Big>
      </form>
      <Speak onSpoken={(blob, seconds) => void field.speak(pack, side, blob, seconds)} />
    </section>
  );
}
