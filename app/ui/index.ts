export { boundText } from "./bounds";
export { Chart } from "./Chart";
export { Button, buttonClass, SelectField, Term, TextField } from "./controls";
export { euros, freeSight, roughly } from "./format";
export { FormSelect, FormText } from "./FormField";
export { figure, signedFigure } from "#core/words";
export {
  Mark,
  MAST_PATH,
  PROOF_WORDS,
  ProofMark,
  SiteGlyph,
  STATE_LINES,
  StateStroke,
  SubscriberGlyph,
  TILE_PATH,
} from "./glyphs";
export { NumberField } from "./NumberField";
export { useFormats, usePreferences } from "./preferences";
export { Table, type Column } from "./Table";
export { Modal } from "./Modal";
export { setOrDrop, useAddress } from "./useAddress";
export { useColours } from "./useColours";
