export { linkThing, outsiderThing, siteThing, subscriberThing, type Thing } from "./things";
export { EXPORT_FORMATS, MEDIA_TYPES, writeThings, type ExportFormat } from "./write";
