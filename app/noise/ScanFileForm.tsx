import { putPatch } from "#core/plan";
import type { RowError } from "#formats/places";
import { readScans } from "#formats/scans";
import { getFormProps, getTextareaProps, useForm } from "@conform-to/react";
import { parseWithZod } from "@conform-to/zod/v4";
import { useRef, useState } from "react";
import { useRevalidator } from "react-router";
import { z } from "zod";
import { ErrorTable } from "../import/ErrorTable";
import { keepPatches } from "../keep/keepPatches";
import { Button, FormSelect, FormText } from "../ui";
import { typedFigure } from "./scannerAsk";

/** What a file that does not say it is taken to have been measured with. */
const settingsSchema = z.object({
  headingDeg: typedFigure(0, 360, "°"),
  polarization: z.enum(["V", "H"]),
  gainDbi: typedFigure(-10, 60, "dBi"),
  beamwidthDeg: typedFigure(1, 360, "°"),
  binKHz: typedFigure(10, 100_000, "kHz"),
});
const formSchema = settingsSchema.extend({ rows: z.string("are missing").trim().min(1, "are missing") });

/** Scans from a file or from rows that are typed in. */
export function ScanFileForm({
  planId,
  revision,
  sites,
  siteId,
}: {
  planId: string;
  revision: number;
  sites: { id: string; name: string }[];
  siteId: string;
}) {
  const { revalidate } = useRevalidator();
  const element = useRef<HTMLFormElement>(null);
  const [message, setMessage] = useState<{ ok: boolean; text: string } | null>(null);
  const [errors, setErrors] = useState<RowError[]>([]);
  const take = async (bytes: Uint8Array, source: string, settings: z.output<typeof settingsSchema>) => {
    const read = readScans(
      bytes,
      { planId, siteId, scannedAt: new Date().toISOString(), source: source.slice(0, 120), ...settings },
      new Map(sites.map(({ id, name }) => [name.toLowerCase(), id])),
      () => crypto.randomUUID(),
    );
    setErrors(read.errors);
    if (read.scans.length === 0)
      return setMessage({ ok: false, text: `${source}: no scan could be read. Nothing was kept.` });
    const answer = await keepPatches(
      planId,
      revision,
      read.scans.map((row) => putPatch("scans", row)),
      `Imported ${read.scans.length} scans from ${source}`,
    );
    setMessage({ ok: answer.ok, text: answer.ok ? `Kept ${read.scans.length} scans from ${source}.` : answer.message });
    await revalidate();
  };
  const [form, fields] = useForm({
    defaultValue: { headingDeg: "0", polarization: "V", gainDbi: "0", beamwidthDeg: "360", binKHz: "1000" },
    onValidate: ({ formData }) => parseWithZod(formData, { schema: formSchema }),
    shouldRevalidate: "onInput",
    onSubmit: (event, { submission }) => {
      event.preventDefault();
      if (submission?.status !== "success") return;
      const { rows, ...settings } = submission.value;
      void take(new TextEncoder().encode(rows.replace(/[ \t]+/g, ";")), "typed rows", settings);
    },
  });
  const takeFile = async (file: File) => {
    const submission = parseWithZod(new FormData(element.current!), { schema: settingsSchema });
    if (submission.status !== "success")
      return setMessage({ ok: false, text: "The figures above are not whole. Nothing was read." });
    await take(new Uint8Array(await file.arrayBuffer()), file.name, submission.value);
  };
  const { key, ...rows } = getTextareaProps(fields.rows);
  return (
    <form
      {...getFormProps(form)}
      ref={element}
      className="space-y-2 rounded border border-rule bg-panel p-3"
      aria-label="Scan from a file"
    >
      <h2 className="text-sm font-semibold">From a file or typed in</h2>
      <p className="text-xs text-quiet">
        CSV with frequency (MHz) and level (dBm); site, heading, polarization, time and bin (kHz) where it has them,
        else as here.
      </p>
      <div className="grid grid-cols-2 gap-2">
        <FormText field={fields.headingDeg} label="Heading" unit="°" />
        <FormSelect field={fields.polarization} label="Polarization">
          <option>V</option>
          <option>H</option>
        </FormSelect>
        <FormText field={fields.gainDbi} label="Antenna gain" unit="dBi" />
        <FormText field={fields.beamwidthDeg} label="Opening" unit="°" />
        <FormText field={fields.binKHz} label="Bin" unit="kHz" />
      </div>
      <input
        type="file"
        aria-label="Scan file"
        accept=".csv,.txt"
        onChange={({ target }) => {
          const file = target.files?.[0];
          if (file) void takeFile(file);
        }}
        className="block w-full text-xs file:mr-2 file:rounded file:border file:border-rule file:bg-panel file:px-2 file:py-0.5 file:text-ink"
      />
      <label className="block text-xs text-quiet">
        Or rows of frequency and level
        <textarea
          key={key}
          {...rows}
          rows={3}
          placeholder={"5500 -92\n5520 -78"}
          className="figures mt-0.5 w-full rounded border border-rule bg-panel px-1.5 py-1 text-ink aria-invalid:border-blocked"
        />
      </label>
      {fields.rows.errors && (
        <p id={fields.rows.errorId} role="alert" className="text-xs font-medium text-blocked">
          Rows {fields.rows.errors[0]}.
        </p>
      )}
      <Button type="submit" disabled={siteId === ""}>
        Keep the rows
      </Button>
      {message && (
        <p role={message.ok ? "status" : "alert"} className={`text-xs font-medium ${message.ok ? "" : "text-blocked"}`}>
          {message.text}
        </p>
      )}
      <ErrorTable errors={errors} rowName="Row" />
    </form>
  );
}
