import type { Preferences } from "../shared/preferences";
import { formatsFor } from "../ui/format";

/** How lengths and places are written on paper, as the reader chose for the screen. */
type PrintedAs = Pick<Preferences, "units" | "coordinates">;

/**
 * Everything that goes on paper, by name: from plain data, which may come from another thread, to the document. Each is loaded when it
 * is first printed.
 */
export const DOCUMENTS = {
  crewSheet: async ({ as, ...given }: Given<typeof import("./SheetPdf").SheetPdf>) =>
    (await import("./SheetPdf")).SheetPdf({ ...given, formats: formatsFor(as) }),
  pack: async ({ as, ...given }: Given<typeof import("./PackPdf").PackPdf>) =>
    (await import("./PackPdf")).PackPdf({ ...given, formats: formatsFor(as) }),
  certificate: async ({ as, ...given }: Given<typeof import("./CertificatePdf").CertificatePdf>) =>
    (await import("./CertificatePdf")).CertificatePdf({ ...given, formats: formatsFor(as) }),
  order: async (given: Parameters<typeof import("./OrderPdf").OrderPdf>[0]) =>
    (await import("./OrderPdf")).OrderPdf(given),
  procedures: async (given: Parameters<typeof import("./ProceduresPdf").ProceduresPdf>[0]) =>
    (await import("./ProceduresPdf")).ProceduresPdf(given),
  sheets: async (given: Parameters<typeof import("./SheetsPdf").SheetsPdf>[0]) =>
    (await import("./SheetsPdf")).SheetsPdf(given),
  labels: async (given: Parameters<typeof import("./LabelsPdf").labelsPdf>[0]) =>
    (await import("./LabelsPdf")).labelsPdf(given),
  month: async (given: Parameters<typeof import("./MonthPdf").MonthPdf>[0]) =>
    (await import("./MonthPdf")).MonthPdf(given),
  run: async (given: Parameters<typeof import("./RunPdf").RunPdf>[0]) => (await import("./RunPdf")).RunPdf(given),
};

/** What a document of lengths and places is given: how they are written instead of who writes them. */
type Given<F extends (given: never) => unknown> = Omit<Parameters<F>[0], "formats"> & { as: PrintedAs };

export type DocumentName = keyof typeof DOCUMENTS;
export type DocumentGiven<N extends DocumentName> = Parameters<(typeof DOCUMENTS)[N]>[0];
