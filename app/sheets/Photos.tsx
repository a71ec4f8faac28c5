import { removePatch, type Photo } from "#core/plan";
import { useState } from "react";
import { useRevalidator } from "react-router";
import { toast } from "sonner";
import { request } from "../ask/request";
import { keepPatches } from "../keep/keepPatches";
import { Button, useFormats } from "../ui";
import { useDesk } from "../desk/DeskContext";

const LONGEST_SIDE_PX = 1600;
const QUALITY = 0.82;

/** Makes a picture small enough to keep; drawing it anew leaves behind all that the camera wrote into it. */
async function shrink(file: File): Promise<{ blob: Blob; widthPx: number; heightPx: number }> {
  const image = await createImageBitmap(file, { imageOrientation: "from-image" });
  const scale = Math.min(1, LONGEST_SIDE_PX / Math.max(image.width, image.height));
  const canvas = new OffscreenCanvas(
    Math.max(1, Math.round(image.width * scale)),
    Math.max(1, Math.round(image.height * scale)),
  );
  canvas.getContext("2d")!.drawImage(image, 0, 0, canvas.width, canvas.height);
  image.close();
  return {
    blob: await canvas.convertToBlob({ type: "image/jpeg", quality: QUALITY }),
    widthPx: canvas.width,
    heightPx: canvas.height,
  };
}

/** Place and time that the camera wrote down, as far as it did. */
async function readExif(file: File): Promise<Pick<Photo, "takenAt" | "latDeg" | "lonDeg">> {
  const { default: exifr } = await import("exifr");
  const found = (await exifr
    .parse(file, { pick: ["DateTimeOriginal", "CreateDate", "GPSLatitude", "GPSLongitude"], gps: true })
    .catch(() => null)) as { DateTimeOriginal?: Date; CreateDate?: Date; latitude?: number; longitude?: number } | null;
  const at = found?.DateTimeOriginal ?? found?.CreateDate;
  const { latitude, longitude } = found ?? {};
  const placed = Number.isFinite(latitude) && Number.isFinite(longitude);
  return {
    takenAt: at instanceof Date && !Number.isNaN(at.getTime()) ? at.toISOString() : null,
    latDeg: placed ? latitude! : null,
    lonDeg: placed ? longitude! : null,
  };
}

/** Photographs of a place: added here or from the roof, shown small, opened large. */
export function Photos({ ownerKind, ownerId }: { ownerKind: Photo["ownerKind"]; ownerId: string }) {
  const { data, world } = useDesk();
  const formats = useFormats();
  const { revalidate } = useRevalidator();
  const [busy, setBusy] = useState(false);
  const planId = world.plan.id;
  const photos = [...world.photos.values()].filter(
    (photo) => photo.ownerKind === ownerKind && photo.ownerId === ownerId,
  );
  const add = async (files: FileList) => {
    setBusy(true);
    for (const file of files) {
      try {
        const [{ blob, widthPx, heightPx }, exif] = await Promise.all([shrink(file), readExif(file)]);
        const body = new FormData();
        body.set("file", new File([blob], file.name, { type: "image/jpeg" }));
        const about = { ownerKind, ownerId, name: file.name.slice(0, 160), caption: "", widthPx, heightPx, ...exif };
        body.set("about", JSON.stringify(about));
        await request(`/plans/${planId}/photos`, { form: body });
      } catch (error) {
        toast.error(`${file.name} could not be taken: ${(error as Error).message}`, { duration: 12_000 });
      }
    }
    setBusy(false);
    await revalidate();
  };
  const remove = async (photo: Photo) => {
    const what = `Took out the photograph ${photo.name}`;
    const { ok, message } = await keepPatches(planId, data.revision, [removePatch("photos", photo.id)], what);
    if (!ok) toast.error(message, { duration: 12_000 });
    await revalidate();
  };
  return (
    <section className="px-3 py-2" aria-label="Photographs">
      <div className="mb-1 flex items-center justify-between">
        <h3 className="text-[13px] font-semibold">Photographs</h3>
        <label className="cursor-pointer rounded border border-rule px-2 py-0.5 text-xs focus-within:outline-2 focus-within:outline-clay hover:border-clay">
          {busy ? "Adding…" : "Add"}
          <input
            type="file"
            accept="image/*"
            multiple
            disabled={busy}
            className="sr-only"
            onChange={(event) => event.target.files && void add(event.target.files)}
          />
        </label>
      </div>
      {photos.length === 0 && (
        <p className="text-xs text-quiet">None yet. The roof, the mount, the view toward the site.</p>
      )}
      <ul className="grid grid-cols-3 gap-1.5">
        {photos.map((photo) => (
          <li key={photo.id} className="text-[11px] text-quiet">
            <a href={`/plans/${planId}/photos/${photo.id}`} target="_blank" rel="noreferrer">
              <img
                src={`/plans/${planId}/photos/${photo.id}`}
                alt={photo.caption || photo.name}
                className="aspect-square w-full rounded border border-rule object-cover"
              />
            </a>
            {photo.takenAt && <span className="figures block">{photo.takenAt.slice(0, 10)}</span>}
            {photo.latDeg !== null && photo.lonDeg !== null && (
              <span className="block truncate" title={formats.place({ latDeg: photo.latDeg, lonDeg: photo.lonDeg })}>
                {formats.place({ latDeg: photo.latDeg, lonDeg: photo.lonDeg })}
              </span>
            )}
            <Button look="quiet" className="px-0 py-0 text-[11px]" onClick={() => void remove(photo)}>
              Take out
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
