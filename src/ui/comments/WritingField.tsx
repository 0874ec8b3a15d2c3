"use client";

import type { Ref } from "react";
import { TextArea } from "../kit/Field";
import { useBankHere } from "./BankContext";
import { BankField } from "./BankField";

/** A field to write in: with the comment bank behind `;` where the page has one, plain where it has not. */
export function WritingField(props: { label: string; hideLabel?: boolean; rows: number; value: string; onChange: (value: string) => void; placeholder?: string; error?: string; fieldRef?: Ref<HTMLTextAreaElement> }) {
  const here = useBankHere();
  const { onChange, fieldRef, ...rest } = props;
  return here ? <BankField {...props} bank={here.bank} values={here.values} /> : <TextArea {...rest} ref={fieldRef} onChange={(event) => onChange(event.target.value)} />;
}
