import {
  useId,
  type InputHTMLAttributes,
  type ReactNode,
  type Ref,
  type TextareaHTMLAttributes,
} from "react";
import { classes } from "./classes";

const BOX =
  "w-full rounded-[3px] border border-line-strong bg-raised px-3 py-1.5 text-ink placeholder:text-soft aria-invalid:border-ember aria-invalid:border-2";

type Common = { label: ReactNode; hint?: ReactNode; error?: string; hideLabel?: boolean };

/** A labelled box with a hint and, when something is wrong, a sentence about it that readers announce. */
export function Labelled({
  label,
  hint,
  error,
  hideLabel,
  children,
}: Common & {
  children: (ids: { id: string; "aria-describedby"?: string; "aria-invalid"?: true }) => ReactNode;
}) {
  const id = useId();
  const described = [hint ? `${id}-hint` : "", error ? `${id}-error` : ""]
    .filter(Boolean)
    .join(" ");
  return (
    <div>
      <label htmlFor={id} className={hideLabel ? "sr-only" : "label block"}>
        {label}
      </label>
      {children({
        id,
        ...(described ? { "aria-describedby": described } : {}),
        ...(error ? { "aria-invalid": true as const } : {}),
      })}
      {hint ? (
        <p id={`${id}-hint`} className="mt-0.5 text-sm text-soft">
          {hint}
        </p>
      ) : null}
      {error ? (
        <p id={`${id}-error`} role="alert" className="mt-0.5 text-sm text-ember">
          <span aria-hidden="true">▲ </span>
          {error}
        </p>
      ) : null}
    </div>
  );
}

export function TextField({
  label,
  hint,
  error,
  hideLabel,
  className,
  ref,
  ...rest
}: Common & InputHTMLAttributes<HTMLInputElement> & { ref?: Ref<HTMLInputElement> }) {
  return (
    <Labelled label={label} hint={hint} error={error} hideLabel={hideLabel}>
      {(ids) => (
        <input
          ref={ref}
          className={classes(BOX, "min-h-10 max-sm:min-h-11", className)}
          {...ids}
          {...rest}
        />
      )}
    </Labelled>
  );
}

export function TextArea({
  label,
  hint,
  error,
  hideLabel,
  className,
  ref,
  ...rest
}: Common & TextareaHTMLAttributes<HTMLTextAreaElement> & { ref?: Ref<HTMLTextAreaElement> }) {
  return (
    <Labelled label={label} hint={hint} error={error} hideLabel={hideLabel}>
      {(ids) => <textarea ref={ref} className={classes(BOX, className)} {...ids} {...rest} />}
    </Labelled>
  );
}

export function CheckField({
  label,
  hint,
  ref,
  ...rest
}: {
  label: ReactNode;
  hint?: ReactNode;
  ref?: Ref<HTMLInputElement>;
} & InputHTMLAttributes<HTMLInputElement>) {
  const id = useId();
  return (
    <div className="flex items-start gap-2">
      <input
        ref={ref}
        id={id}
        type="checkbox"
        className="mt-1 size-5 shrink-0 accent-tide"
        {...rest}
      />
      <label htmlFor={id}>
        {label}
        {hint ? <span className="block text-sm text-soft">{hint}</span> : null}
      </label>
    </div>
  );
}
