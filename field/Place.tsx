import { plainFigure } from "#core/words";
import { useState } from "react";
import { asWritten } from "./asWritten";
import type { Here } from "./here";
import { Big, Box, FilePick } from "./parts";
import { smallPicture } from "./picture";
import { useField } from "./useField";
import { useTyped } from "./useTyped";

/** What is otherwise here than in the plan: words about the place, the height as built, the serial number, photographs. */
export function Place({ pack, side, here, notes }: Here) {
  const field = useField();
  const { place, end, sheet } = here;
  const kept = asWritten(field.entries, pack.planId, place).notes;
  const [words, setWords] = useTyped({ pack, side }, "notes", kept);
  const [height, setHeight] = useTyped({ pack, side }, "height");
  const [serial, setSerial] = useTyped({ pack, side }, "serial");
  const [problem, setProblem] = useState("");
  const heightM = Number(plainFigure(height));
  const isHeight = height.trim() !== "" && heightM >= 0 && heightM <= end.maxHeightM;
  const serials = notes.filter((note) => note.side === side && note.kind === "serial");
  const waiting = field.entries.filter(({ visitId, photo }) => visitId === pack.visit.id && photo !== null).length;
  const take = async (file: File | undefined, caption: string) => {
    if (!file) return;
    const picture = await smallPicture(file).catch(() => null);
    if (!picture) return setProblem("This file is no picture that the phone can read.");
    setProblem("");
    await field.photograph(pack, picture.blob, {
      ownerKind: place.kind === "sites" ? "site" : "subscriber",
      ownerId: place.id,
      name: `${sheet.placeName}, ${caption}`.slice(0, 160),
      ...{ caption, takenAt: new Date().toISOString(), latDeg: null, lonDeg: null },
      ...{ widthPx: picture.widthPx, heightPx: picture.heightPx },
    });
  };
  return (
    <section aria-label="Place">
      <label className="block text-sm font-semibold" htmlFor="place-notes">
        Notes on {sheet.placeName}
      </label>
      <textarea
        id="place-notes"
        value={words}
        maxLength={4000}
        rows={4}
        onChange={({ target }) => setWords(target.value)}
        className="w-full rounded-lg border-2 border-rule bg-panel p-3"
      />
      <Big
        className="w-full"
        disabled={words === kept}
        onClick={() =>
          void field
            .put(pack, `Notes on ${sheet.placeName}, from the roof`, {
              kind: place.kind,
              id: place.id,
              set: { notes: words },
            })
            .then(() => setWords(kept))
        }
      >
        Keep the notes
      </Big>
      <div className="mt-4 flex items-end gap-2">
        <Box
          label={`Height as built, planned ${sheet.heightM}`}
          unit="m"
          inputMode="decimal"
          value={height}
          onChange={({ target }) => setHeight(target.value)}
        />
        <Big
          disabled={!isHeight}
          onClick={() => {
            void field.put(pack, `Height of ${end.radio.name} as built: ${heightM} m`, {
              kind: "radios",
              id: end.radio.id,
              set: { heightM },
            });
            setHeight("");
          }}
        >
          Keep
        </Big>
      </div>
      {height.trim() !== "" && !isHeight && (
        <p role="alert" className="text-sm font-semibold text-blocked">
          A height from 0 to {end.maxHeightM} m, which is what this place offers.
        </p>
      )}
      <div className="mt-4 flex items-end gap-2">
        <Box
          isText
          label="Serial number"
          placeholder={serials.at(-1)?.text}
          value={serial}
          onChange={({ target }) => setSerial(target.value)}
        />
        <Big
          disabled={serial.trim() === ""}
          onClick={() => {
            void field.note(pack, { side, kind: "serial", text: serial.trim() });
            setSerial("");
          }}
        >
          Note
        </Big>
      </div>
      <h2 className="mt-4 text-lg font-semibold">Photographs</h2>
      {problem && (
        <p role="alert" className="font-semibold text-blocked">
          {problem}
        </p>
      )}
      {waiting > 0 && <p>{waiting} on this phone, to be sent.</p>}
      <div className="grid grid-cols-2 gap-2">
        {["the mast before", "the mast after", "the label", "the joint"].map((caption) => (
          <FilePick
            key={caption}
            label={caption[0]!.toUpperCase() + caption.slice(1)}
            accept="image/*"
            capture="environment"
            onPick={(files) => void take(files[0], caption)}
          />
        ))}
      </div>
      <ul className="mt-3 grid grid-cols-2 gap-2">
        {here.photos.map((photo) => (
          <li key={photo.id}>
            <img
              src={`/plans/${encodeURIComponent(pack.planId)}/photos/${photo.id}`}
              alt={photo.caption || photo.name}
              className="rounded-lg"
            />
          </li>
        ))}
      </ul>
    </section>
  );
}
