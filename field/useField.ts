import type { FieldNote } from "#core/crews";
import type { FieldAccount, FieldOp, FieldPack } from "#wire";
import { createContext, useCallback, useContext, useEffect, useMemo, useRef, useState } from "react";
import { forgetPictures } from "../app/shared/forgetPictures";
import { readEntries, readPacks, readSetting, writeEntries, writeSetting, type Entry } from "./keep";
import { sendWaiting, type Way } from "./send";

/** How often what waits is tried again, and how often the other end is listened to, ms. */
const TRY_MS = 5000;

export type NoteDraft = Partial<Omit<FieldNote, "id" | "visitId" | "by" | "at">> & Pick<FieldNote, "side" | "kind">;

export interface Field {
  isReady: boolean;
  packs: FieldPack[];
  entries: Entry[];
  way: Way;
  /** Who is signed in on this phone, as the desk said last; null where nobody signs in. */
  account: FieldAccount | null;
  /** Why the desk takes nothing of a plan, by its id. */
  refusals: Record<string, string>;
  name: string;
  setName: (name: string) => void;
  setting: (name: string) => string;
  set: (name: string, value: string) => void;
  /** Writes notes down, all of them or none; they are on the phone when the promise settles. */
  note: (pack: FieldPack, ...drafts: NoteDraft[]) => Promise<void>;
  put: (
    pack: FieldPack,
    what: string,
    patch: Extract<FieldOp, { patch: unknown }>["patch"],
    base?: number,
  ) => Promise<void>;
  photograph: (pack: FieldPack, blob: Blob, about: Record<string, unknown>) => Promise<void>;
  /** Writes down what was spoken; `seconds` is how long it is. */
  speak: (pack: FieldPack, side: FieldNote["side"], blob: Blob, seconds: number) => Promise<void>;
  reload: () => Promise<void>;
  send: () => void;
}

export const newId = (): string => crypto.randomUUID();

const SETTINGS = ["name", "hand", "theme", "phone", "account"] as const;

const accountIn = (text: string | undefined): FieldAccount | null =>
  text ? (JSON.parse(text) as FieldAccount | null) : null;

/** Everything that the phone holds, and the ways to add to it. */
export function useFieldState(): Field {
  const [packs, setPacks] = useState<FieldPack[]>([]);
  const [entries, setEntries] = useState<Entry[]>([]);
  const [settings, setSettings] = useState<Record<string, string>>({});
  const [way, setWay] = useState<Way>("open");
  const [refusals, setRefusals] = useState<Record<string, string>>({});
  const [isReady, setReady] = useState(false);
  const sending = useRef<Promise<void> | null>(null);

  const reload = useCallback(async () => {
    const [heldPacks, heldEntries, ...values] = await Promise.all([
      readPacks(),
      readEntries(),
      ...SETTINGS.map((name) => readSetting(name)),
    ]);
    setPacks(heldPacks);
    setEntries(heldEntries);
    const held = Object.fromEntries(SETTINGS.map((name, i) => [name, values[i]!]));
    if (!held.phone) {
      // What stands before the last dash of an op names who wrote it: a phone is never in its own way.
      held.phone = newId().replaceAll("-", "").slice(0, 12);
      await writeSetting("phone", held.phone);
    }
    setSettings(held);
    setReady(true);
  }, []);

  const send = useCallback(() => {
    sending.current ??= sendWaiting()
      .then(async (round) => {
        setWay(round.way);
        setRefusals(round.refusals);
        const before = accountIn(await readSetting("account"));
        const isOver = round.way === "signIn" || (before && round.account && before.id !== round.account.id);
        // Pictures that one person looked at are not the next one's.
        if (isOver) await forgetPictures();
        if (round.account !== undefined) await writeSetting("account", JSON.stringify(round.account));
        await reload();
      })
      .finally(() => (sending.current = null));
  }, [reload]);

  useEffect(() => {
    void reload().then(send);
    const timer = setInterval(send, TRY_MS);
    window.addEventListener("online", send);
    document.addEventListener("visibilitychange", send);
    return () => {
      clearInterval(timer);
      window.removeEventListener("online", send);
      document.removeEventListener("visibilitychange", send);
    };
  }, [reload, send]);

  const account = useMemo(() => accountIn(settings.account), [settings.account]);
  const write = useCallback(
    async (...entries: Pick<Entry, "id" | "planId" | "visitId" | "op" | "photo" | "voice">[]) => {
      const at = new Date().toISOString();
      const written = entries.map((entry): Entry => ({
        ...entry,
        ...{ at, writer: account, state: "waiting", message: "", theirs: null, revision: 0 },
      }));
      await writeEntries(written);
      // Shown once it is on the phone, never before.
      navigator.vibrate?.(20);
      setEntries((old) => [...old, ...written]);
      send();
    },
    [send, account],
  );
  const name = settings.name ?? "";
  const set = useCallback((key: string, value: string) => {
    setSettings((old) => ({ ...old, [key]: value }));
    void writeSetting(key, value);
  }, []);

  return useMemo<Field>(() => {
    const noteOf = (pack: FieldPack, draft: NoteDraft, at: string): FieldNote => ({
      ...{ key: "", text: "", value: null, levelDbm: null, isOn: true },
      ...draft,
      ...{ id: newId(), visitId: pack.visit.id, by: name, at },
    });
    return {
      ...{ isReady, packs, entries, way, account, refusals, name, set, reload, send },
      setName: (next) => set("name", next),
      setting: (key) => settings[key] ?? "",
      note: (pack, ...drafts) => {
        const at = new Date().toISOString();
        return write(
          ...drafts.map((draft) => {
            const note = noteOf(pack, draft, at);
            return { id: note.id, planId: pack.planId, visitId: pack.visit.id, op: { id: note.id, note }, photo: null };
          }),
        );
      },
      speak: (pack, side, blob, seconds) => {
        const note = noteOf(pack, { side, kind: "voice", value: seconds }, new Date().toISOString());
        const voice = { note, blob };
        return write({ id: note.id, planId: pack.planId, visitId: pack.visit.id, op: null, photo: null, voice });
      },
      put: (pack, what, patch, base = pack.revision) => {
        const id = `${settings.phone}-${newId().replaceAll("-", "")}`;
        const op: FieldOp = { id, visitId: pack.visit.id, base, what, by: name, patch };
        return write({ id, planId: pack.planId, visitId: pack.visit.id, op, photo: null });
      },
      photograph: (pack, blob, about) =>
        write({ id: newId(), planId: pack.planId, visitId: pack.visit.id, op: null, photo: { blob, about } }),
    };
  }, [isReady, packs, entries, way, account, refusals, name, set, reload, send, settings, write]);
}

export const FieldContext = createContext<Field | null>(null);
export function useField(): Field {
  const field = useContext(FieldContext);
  if (!field) throw new Error("useField stands outside of the field's own page");
  return field;
}
