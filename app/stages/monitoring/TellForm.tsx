import { linkName } from "#core/plan";
import type { WatchSettings } from "#core/watch";
import { useState } from "react";
import { useDesk } from "../../desk/DeskContext";
import { Button, SelectField, TextField } from "../../ui";
import { useWatch } from "./MonitoringContext";

/** Who is told of alarms, when nobody is woken, and on which days work is done. */
export function TellForm() {
  const { kept } = useDesk();
  const { kept: watch, ask } = useWatch();
  const { settings } = watch!;
  const [emails, setEmails] = useState(settings.emails.join(", "));
  const [webhook, setWebhook] = useState(settings.webhook);
  const [quiet, setQuiet] = useState(settings.quietHours);
  const [work, setWork] = useState({ fromDay: "", toDay: "", linkId: "", why: "" });
  const keep = (set: Partial<Pick<WatchSettings, "maintenance">> = {}) =>
    void ask({
      intent: "settings",
      set: {
        emails: emails.split(/[\s,;]+/).filter(Boolean),
        webhook: webhook.trim(),
        quietHours: quiet,
        maintenance: set.maintenance ?? settings.maintenance,
      },
    });
  const nameOf = (id: string) => (kept.links.has(id) ? linkName(kept, id) : id);
  const hours = Array.from({ length: 24 }, (_, hour) => hour);
  return (
    <section className="max-w-2xl space-y-2">
      <h2 className="font-semibold">Who is told of alarms</h2>
      <form
        className="grid grid-cols-2 items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          keep();
        }}
      >
        <TextField
          label="E-mail addresses, with commas between"
          value={emails}
          onChange={({ target }) => setEmails(target.value)}
        />
        <TextField
          label="Address of a program (webhook)"
          value={webhook}
          onChange={({ target }) => setWebhook(target.value)}
        />
        <SelectField
          label="Nobody is woken, UTC, from"
          value={quiet?.from ?? ""}
          onChange={({ target }) =>
            setQuiet(target.value === "" ? null : { from: Number(target.value), to: quiet?.to ?? 6 })
          }
        >
          <option value="">tell at any hour</option>
          {hours.map((hour) => (
            <option key={hour} value={hour}>
              {String(hour).padStart(2, "0")}:00
            </option>
          ))}
        </SelectField>
        {quiet && (
          <SelectField
            label="to"
            value={quiet.to}
            onChange={({ target }) => setQuiet({ ...quiet, to: Number(target.value) })}
          >
            {hours.map((hour) => (
              <option key={hour} value={hour}>
                {String(hour).padStart(2, "0")}:00
              </option>
            ))}
          </SelectField>
        )}
        <Button type="submit" look="primary">
          Keep
        </Button>
      </form>
      <h3 className="pt-2 font-semibold">Days of work</h3>
      <p className="text-xs text-quiet">What strays on these days raises no alarm.</p>
      <ul>
        {settings.maintenance.map((one, index) => (
          <li key={`${one.fromDay} ${one.linkId}`} className="flex items-center gap-2 text-xs">
            {one.fromDay} to {one.toDay}, {one.linkId === null ? "all links" : nameOf(one.linkId)}
            {one.why !== "" && `: ${one.why}`}
            <Button
              className="text-xs"
              onClick={() => keep({ maintenance: settings.maintenance.filter((_, at) => at !== index) })}
            >
              Remove
            </Button>
          </li>
        ))}
      </ul>
      <form
        className="grid grid-cols-2 items-end gap-2 md:grid-cols-4"
        onSubmit={(event) => {
          event.preventDefault();
          const added = { ...work, linkId: work.linkId === "" ? null : work.linkId };
          keep({ maintenance: [...settings.maintenance, added] });
        }}
      >
        <TextField
          label="From"
          type="date"
          value={work.fromDay}
          onChange={({ target }) => setWork({ ...work, fromDay: target.value })}
        />
        <TextField
          label="Up to"
          type="date"
          value={work.toDay}
          onChange={({ target }) => setWork({ ...work, toDay: target.value })}
        />
        <SelectField
          label="Link"
          value={work.linkId}
          onChange={({ target }) => setWork({ ...work, linkId: target.value })}
        >
          <option value="">all</option>
          {[...kept.links.keys()].map((id) => (
            <option key={id} value={id}>
              {nameOf(id)}
            </option>
          ))}
        </SelectField>
        <Button type="submit" disabled={work.fromDay === "" || work.toDay < work.fromDay}>
          Add
        </Button>
      </form>
    </section>
  );
}
