import { getInputProps, getSelectProps, type FieldMetadata } from "@conform-to/react";
import type { ReactNode } from "react";
import { SelectField, TextField } from "./controls";

interface Field {
  field: FieldMetadata<unknown>;
  label: string;
}

/** The first thing wrong with a field, in a sentence that begins with its label or with what `says` calls it. */
const errorOf = ({ field, label, says = label }: Field & { says?: string }) =>
  field.errors?.[0] && `${says} ${field.errors[0]}`;

/** A box of a form: its value, its bounds and what is wrong with it come from the form's schema. */
export function FormText({
  field,
  label,
  says = label,
  ...rest
}: Field & { says?: string; unit?: string; hint?: string; placeholder?: string }) {
  const { key, ...props } = getInputProps(field as FieldMetadata<string>, { type: "text" });
  return <TextField key={key} {...props} {...rest} label={label} error={errorOf({ field, label, says })} />;
}

/** A choice of a form; `children` are its options. */
export function FormSelect({ field, label, children }: Field & { children: ReactNode }) {
  const { key, ...props } = getSelectProps(field as FieldMetadata<string>);
  return (
    <SelectField key={key} {...props} label={label} error={errorOf({ field, label })}>
      {children}
    </SelectField>
  );
}
