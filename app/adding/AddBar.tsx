import type { Place } from "#core/geodesy";
import { parsePosition } from "#formats/places";
import { useEffect, useRef, useState } from "react";
import { useDesk } from "../desk/DeskContext";
import { Button, SelectField } from "../ui";
import { ADDABLE } from "./addable";
import { useAdding } from "./AddingContext";

/** Says what to do while something is being put, and takes what is typed instead of clicked. */
export function AddBar() {
  const { adding, stop } = useAdding();
  const holder = useRef<HTMLDivElement>(null);
  const kind = adding?.kind ?? null;
  const part = adding?.fromSiteId ?? "";
  useEffect(() => {
    if (kind) holder.current?.querySelector<HTMLElement>("input, select")?.focus();
  }, [kind, part]);
  if (!adding) return null;
  const { word } = ADDABLE.find((one) => one.kind === adding.kind)!;
  return (
    <div
      ref={holder}
      role="region"
      aria-label={`Add a ${word}`}
      className="absolute top-2 left-2 z-10 w-80 max-w-[calc(100%-1rem)] space-y-2 rounded border border-clay bg-panel p-2 text-[13px] shadow"
      onKeyDown={(event) => {
        // The plan under it has keys of its own.
        event.stopPropagation();
        if (event.key !== "Escape") return;
        event.nativeEvent.stopImmediatePropagation();
        stop();
      }}
    >
      <p className="flex items-baseline justify-between gap-2">
        <strong>Add a {word}</strong>
        <Button look="quiet" className="px-1 py-0 text-xs" onClick={stop}>
          Stop <kbd className="text-quiet">Esc</kbd>
        </Button>
      </p>
      {adding.kind === "site" || adding.kind === "subscriber" ? (
        <PlaceForm kind={adding.kind} word={word} />
      ) : (
        <SiteForm key={part} />
      )}
    </div>
  );
}

/** A place by its coordinates in any notation, or where this device is. */
function PlaceForm({ kind, word }: { kind: "site" | "subscriber"; word: string }) {
  const { putAt } = useAdding();
  const { lookAt } = useDesk();
  const [text, setText] = useState("");
  const [error, setError] = useState("");
  const put = (place: Place) => {
    putAt(kind, place);
    lookAt([place]);
  };
  const here = () => {
    if (!("geolocation" in navigator)) return setError("This browser does not know where it is.");
    navigator.geolocation.getCurrentPosition(
      ({ coords }) => put({ latDeg: coords.latitude, lonDeg: coords.longitude }),
      ({ message }) => setError(`The place of this device is not known: ${message || "it was not allowed"}.`),
      { enableHighAccuracy: true, timeout: 20_000 },
    );
  };
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        const place = parsePosition(text);
        if (!place) return setError(`"${text}" is no latitude and longitude. Degrees in any notation, or UTM.`);
        put(place);
      }}
    >
      <label htmlFor="add-place" className="block text-xs text-quiet">
        Click where the {word} stands, or type its coordinates
      </label>
      <div className="mt-0.5 flex gap-1.5">
        <input
          id="add-place"
          value={text}
          onChange={(event) => {
            setText(event.target.value);
            setError("");
          }}
          placeholder="-37.612, -30.204"
          aria-invalid={error ? true : undefined}
          aria-describedby={error ? "add-place-error" : undefined}
          className="figures w-full min-w-0 rounded border border-rule bg-panel px-2 py-1 text-sm aria-invalid:border-blocked"
        />
        <Button type="submit" look="primary">
          Put
        </Button>
        <Button onClick={here} title="Where this device is">
          Here
        </Button>
      </div>
      {error && (
        <p id="add-place-error" role="alert" className="mt-0.5 text-xs font-medium text-blocked">
          {error}
        </p>
      )}
    </form>
  );
}

/** A site by its name: where the sector stands, or where the bridge begins and ends. */
function SiteForm() {
  const { adding, takeSite } = useAdding();
  const { world, selection } = useDesk();
  const from = world.sites.get(adding?.fromSiteId ?? "");
  const sites = [...world.sites.values()]
    .filter(({ id }) => id !== from?.id)
    .sort((x, y) => x.name.localeCompare(y.name));
  const preset = selection?.kind === "site" && selection.id !== from?.id ? selection.id : undefined;
  const [siteId, setSiteId] = useState(preset ?? sites[0]?.id ?? "");
  const isBridge = adding?.kind === "bridge";
  if (sites.length === 0)
    return (
      <p className="text-xs">
        {isBridge ? "A bridge stands between two sites: add those first." : "A sector stands on a site: add one first."}
      </p>
    );
  const label = !isBridge ? "On which site? Click it or choose" : from ? `From ${from.name} to` : "From which site?";
  return (
    <form
      className="flex items-end gap-1.5"
      onSubmit={(event) => {
        event.preventDefault();
        takeSite(siteId);
      }}
    >
      <div className="min-w-0 flex-1">
        <SelectField label={label} value={siteId} onChange={(event) => setSiteId(event.target.value)}>
          {sites.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </SelectField>
      </div>
      <Button type="submit" look="primary">
        {isBridge && !from ? "Next" : "Put"}
      </Button>
    </form>
  );
}
