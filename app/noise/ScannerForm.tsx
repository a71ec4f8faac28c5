import { getFormProps, useForm, type SubmissionResult } from "@conform-to/react";
import { parseWithZod } from "@conform-to/zod/v4";
import { Form, useNavigation } from "react-router";
import { Button, FormText } from "../ui";
import { scannerAskSchema } from "./scannerAsk";

/** What a scanner is asked at a site: headings, band and antenna, and where it answers. */
export function ScannerForm({
  siteId,
  isDemo,
  lastResult,
}: {
  siteId: string;
  isDemo: boolean;
  lastResult: SubmissionResult<string[]> | null;
}) {
  const busy = useNavigation().state !== "idle";
  const [form, fields] = useForm({
    lastResult,
    defaultValue: {
      headings: "0 90 180 270",
      fromMHz: "5150",
      toMHz: "5875",
      binKHz: "1000",
      beamwidthDeg: "60",
      gainDbi: "12",
    },
    onValidate: ({ formData }) => parseWithZod(formData, { schema: scannerAskSchema }),
    shouldRevalidate: "onInput",
  });
  return (
    <Form method="post" {...getFormProps(form)} className="space-y-2 rounded border border-rule bg-panel p-3">
      <h2 className="text-sm font-semibold">Ask a scanner</h2>
      <p className="text-xs text-quiet">
        {isDemo
          ? "Without an address the stand-in answers, as this is a demo: it hears the plan's own transmitters over its terrain, and outsiders that it invents."
          : "A scanner on this machine answers at its address. The simulation hears nothing but the plan's own transmitters over its terrain: no measurement, only practice."}
      </p>
      <input type="hidden" name={fields.siteId.name} value={siteId} />
      {fields.siteId.errors && (
        <p role="alert" className="text-xs font-medium text-blocked">
          The site {fields.siteId.errors[0]}.
        </p>
      )}
      <FormText field={fields.headings} label="Headings" unit="°" />
      <div className="grid grid-cols-2 gap-2">
        <FormText field={fields.fromMHz} label="From" unit="MHz" />
        <FormText field={fields.toMHz} label="To" unit="MHz" />
        <FormText field={fields.binKHz} label="Bin" unit="kHz" />
        <FormText field={fields.beamwidthDeg} label="Opening" unit="°" />
        <FormText field={fields.gainDbi} label="Gain" unit="dBi" />
      </div>
      <FormText
        field={fields.scannerUrl}
        label="Address, on this machine"
        placeholder={isDemo ? "stand-in" : "http://127.0.0.1:…"}
      />
      {!isDemo && (
        <label className="flex items-center gap-2 text-xs">
          <input type="checkbox" name={fields.standIn.name} className="accent-[var(--clay)]" />
          Simulate it instead
        </label>
      )}
      <Button type="submit" look="primary" disabled={busy || siteId === ""}>
        {busy ? "Listening…" : "Scan"}
      </Button>
    </Form>
  );
}
