import { jobMapDrawing, ticked } from "#core/crews";
import { carriedWords } from "../app/shared/jobWords";
import { CAUTION_NOTE, CAUTIONS, sendingWords } from "#core/install";
import { figure } from "#core/words";
import { StepDrawing } from "../app/shared/StepDrawing";
import { localTime, type Here } from "./here";
import { Big, Box, Fact } from "./parts";
import { useField } from "./useField";
import { useTyped } from "./useTyped";

/** What must be confirmed, by name and time, before the work; then what there is to know of this end. */
export function Before({ pack, side, here, there, notes }: Here) {
  const field = useField();
  const ticks = ticked(notes, side, "caution");
  const { sheet } = here;
  return (
    <>
      <section aria-label="Before anyone climbs" className="rounded-lg border-2 border-blocked p-3">
        <h2 className="font-semibold text-blocked">Before anyone climbs, here</h2>
        {field.name.trim() === "" && (
          <p role="status" className="text-sm font-semibold text-blocked">
            Give your name under “All jobs” first: each point is confirmed by somebody.
          </p>
        )}
        <ul>
          {CAUTIONS.map(({ key, text }) => {
            const tick = ticks.get(key);
            return (
              <li key={key}>
                <label className="flex min-h-14 items-center gap-3 py-1">
                  <input
                    type="checkbox"
                    className="size-8 shrink-0 accent-[var(--clay)]"
                    checked={tick !== undefined}
                    disabled={field.name.trim() === ""}
                    onChange={() => void field.note(pack, { side, kind: "caution", key, isOn: !tick })}
                  />
                  <span>
                    {text}
                    {tick && (
                      <span className="block text-sm text-quiet">
                        {tick.by}, {localTime(tick.at)}
                      </span>
                    )}
                  </span>
                </label>
              </li>
            );
          })}
        </ul>
        {(sheet.hazards || here.place.hazards) && (
          <p className="font-semibold text-blocked">
            ⚠ Written down for this place: {here.place.hazards || sheet.hazards}
          </p>
        )}
        <p className="text-sm">{CAUTION_NOTE}</p>
      </section>
      <Halt pack={pack} side={side} notes={notes} />
      <h2 className="mt-4 text-lg font-semibold">This end</h2>
      <dl>
        <Fact label="Radio, antenna">
          <span className="font-sans text-lg">
            {sheet.radioModel}, {sheet.antennaModel}
          </span>
        </Fact>
        <Fact label="Height on the mast">{figure(sheet.heightM)} m</Fact>
        <Fact label="Channel" note={sendingWords(sheet)}>
          {sheet.sendsMHz === sheet.listensMHz
            ? `${figure(sheet.sendsMHz, 0)} MHz`
            : `sends ${figure(sheet.sendsMHz, 0)}, listens ${figure(sheet.listensMHz, 0)} MHz`}
        </Fact>
        {here.address && (
          <Fact label="Its address" note={here.gateway && `gateway ${here.gateway}`}>
            {here.address}
          </Fact>
        )}
        {pack.tools && (
          <Fact label="Tools">
            <span className="font-sans text-base font-normal">{pack.tools}</span>
          </Fact>
        )}
        {here.carried && (
          <Fact label="Parts" note={carriedWords(here.carried)}>
            <span className="font-sans text-base font-normal">{here.carried.parts.join("; ")}</span>
          </Fact>
        )}
        {here.place.access && (
          <Fact label="How one gets there">
            <span className="font-sans text-base font-normal">{here.place.access}</span>
          </Fact>
        )}
      </dl>
      {pack.country && (
        <StepDrawing
          isWide
          drawing={jobMapDrawing(
            pack.country.map,
            { ...sheet.place, name: sheet.placeName },
            { ...there.sheet.place, name: there.sheet.placeName },
            pack.country.sites,
          )}
        />
      )}
      <h2 className="mt-4 text-lg font-semibold">At the other end: {there.sheet.placeName}</h2>
      {there.crew ? (
        <p>
          {there.crew.name}
          {there.crew.people && ` (${there.crew.people.split("\n").join(", ")})`}
          {there.crew.radioChannel && <span className="block">Hand radio: {there.crew.radioChannel}</span>}
          {there.crew.phone && (
            <a
              className="inline-flex min-h-12 items-center underline"
              href={`tel:${there.crew.phone.replace(/[^+\d]/g, "")}`}
            >
              Call {there.crew.phone}
            </a>
          )}
        </p>
      ) : (
        <p>Nobody is planned there.</p>
      )}
      <p className="text-sm">
        A mirror flash from there comes from {figure(sheet.headingTrueDeg)}° true, {figure(pack.distanceM / 1000, 2)} km
        away.
      </p>
    </>
  );
}

/** Stopping the job with its reason, and going on. */
function Halt({ pack, side, notes }: Pick<Here, "pack" | "side" | "notes">) {
  const field = useField();
  const [reason, setReason] = useTyped({ pack, side }, "reason");
  const last = notes
    .filter((note) => note.side === side && (note.kind === "stopped" || note.kind === "resumed"))
    .sort((x, y) => (x.at < y.at ? -1 : 1))
    .at(-1);
  if (last?.kind === "stopped")
    return (
      <Big className="mt-3 w-full" onClick={() => void field.note(pack, { side, kind: "resumed" })}>
        Go on with the job
      </Big>
    );
  return (
    <div className="mt-3 flex items-end gap-2">
      <Box
        isText
        label="Stop the job, because"
        value={reason}
        placeholder="wind, ice, a line too near…"
        onChange={({ target }) => setReason(target.value)}
      />
      <Big
        look="stop"
        disabled={reason.trim() === ""}
        onClick={() => {
          void field.note(pack, { side, kind: "stopped", text: reason.trim() });
          setReason("");
        }}
      >
        Stop
      </Big>
    </div>
  );
}
