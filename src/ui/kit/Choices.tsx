import type { ReactNode } from "react";
import { useId, type Ref, type SelectHTMLAttributes } from "react";
import { Labelled } from "./Field";
import { classes } from "./classes";

const BOX =
  "w-full min-h-10 max-sm:min-h-11 rounded-[3px] border border-line-strong bg-raised px-2 py-1.5 text-ink aria-invalid:border-ember aria-invalid:border-2";

export function SelectField({
  label,
  hint,
  error,
  hideLabel,
  className,
  ref,
  children,
  ...rest
}: {
  label: ReactNode;
  hint?: ReactNode;
  error?: string;
  hideLabel?: boolean;
  ref?: Ref<HTMLSelectElement>;
} & SelectHTMLAttributes<HTMLSelectElement>) {
  return (
    <Labelled label={label} hint={hint} error={error} hideLabel={hideLabel}>
      {(ids) => (
        <select ref={ref} className={classes(BOX, className)} {...ids} {...rest}>
          {children}
        </select>
      )}
    </Labelled>
  );
}

/** One of a few, all in view. */
export function RadioLine<T extends string>({
  label,
  value,
  choices,
  onChange,
  hideLabel,
}: {
  label: string;
  value: T;
  choices: readonly { value: T; words: ReactNode }[];
  onChange: (value: T) => void;
  hideLabel?: boolean;
}) {
  const name = useId();
  return (
    <fieldset>
      <legend className={hideLabel ? "sr-only" : "label"}>{label}</legend>
      <div className="flex flex-wrap gap-x-6 gap-y-1">
        {choices.map((choice) => (
          <label key={choice.value} className="flex min-h-8 items-center gap-2">
            <input
              type="radio"
              name={name}
              value={choice.value}
              checked={choice.value === value}
              onChange={() => onChange(choice.value)}
              className="size-5 accent-tide"
            />
            <span>{choice.words}</span>
          </label>
        ))}
      </div>
    </fieldset>
  );
}

/** Words that are on or off, as on a slip of paper: chosen ones are underlined and ticked. */
export function Chip({
  chosen,
  onToggle,
  children,
  ...rest
}: {
  chosen: boolean;
  onToggle: () => void;
  children: ReactNode;
} & React.ButtonHTMLAttributes<HTMLButtonElement>) {
  return (
    <button
      type="button"
      aria-pressed={chosen}
      onClick={onToggle}
      className={classes(
        "min-h-9 cursor-pointer border px-3 py-1",
        chosen
          ? "border-tide bg-tide-wash font-semibold"
          : "border-line-strong bg-raised hover:bg-sunk",
      )}
      {...rest}
    >
      <span aria-hidden="true">{chosen ? "✓ " : "+ "}</span>
      {children}
    </button>
  );
}
