"use client";

import {
  parseDate,
  parseDateTime,
  parseTime,
  toCalendarDate,
  type DateValue,
} from "@internationalized/date";
import { useEffect, useLayoutEffect, useRef, useState, type ReactNode } from "react";
import {
  Button,
  Calendar,
  CalendarCell,
  CalendarGrid,
  DateField,
  DateInput,
  DateSegment,
  FieldError,
  Heading,
  I18nProvider,
  Label,
  Text,
  TimeField,
} from "react-aria-components";
import { classes } from "./classes";

/** Days before months and 24 hours, as everything that is shown is written. */
const WRITTEN = "en-GB";

type Kind = "both" | "date" | "time";
type Props = {
  kind: Kind;
  label: ReactNode;
  /** Wall time: "2026-12-03T09:05", "2026-12-03" or "09:05"; "" where nothing is typed. */
  value: string;
  /** Called with such a value, or with "" while a part of it is missing. */
  onChange: (value: string) => void;
  hint?: ReactNode;
  error?: string;
  hideLabel?: boolean;
  disabled?: boolean;
  required?: boolean;
  autoFocus?: boolean;
  /** In a table: as low and as narrow as it can be. */ small?: boolean;
  /** Marked as wrong; why is said elsewhere. */ wrong?: boolean;
  title?: string;
};

/**
 * A date, a time, or both, typed part by part in the one way in which they are shown; arrows step through a part. Days
 * can be taken from a sheet of the month too.
 */
export function WhenField(props: Props) {
  return (
    <I18nProvider locale={WRITTEN}>
      <div title={props.title} onKeyDownCapture={sendOnEnter}>
        {props.kind === "time" ? <TimeOnly {...props} /> : <WithDate {...props} />}
      </div>
    </I18nProvider>
  );
}

/** Enter sends the form, as from any other field. On the way down: the parts of a date let no key up. */
function sendOnEnter(event: React.KeyboardEvent<HTMLElement>): void {
  const { target, currentTarget } = event;
  if (event.key !== "Enter" || !(target as HTMLElement).matches("[role=spinbutton]")) return;
  event.preventDefault();
  currentTarget.closest("form")?.requestSubmit();
}

const BOX =
  "flex items-center rounded-[3px] border border-line-strong bg-raised text-ink tabular-nums focus-within:outline-2 focus-within:outline-offset-2 focus-within:outline-tide";
const SIZES = {
  small: "min-h-9 px-1 text-[0.8125rem]",
  usual: "min-h-10 px-2 max-sm:min-h-11",
} as const;

function TimeOnly(props: Props) {
  const { value, onChange, small, error } = props;
  return (
    <TimeField
      {...common(props)}
      hourCycle={24}
      value={value === "" ? null : parseTime(value)}
      onChange={(time) => onChange(time ? time.toString().slice(0, 5) : "")}
    >
      <Name {...props} />
      <DateInput
        className={classes(BOX, SIZES[small ? "small" : "usual"], (error || props.wrong) && WRONG)}
      >
        {(segment) => <Segment segment={segment} />}
      </DateInput>
      <Said {...props} />
    </TimeField>
  );
}

function WithDate(props: Props) {
  const { kind, value, onChange, small, error, disabled, required } = props;
  const [open, setOpen] = useState(false);
  const around = useRef<HTMLDivElement>(null);
  const known = valueOf(kind, value);
  const take = (given: DateValue | null) => onChange(given ? wallOf(kind, given) : "");
  useEffect(() => {
    if (!open) return;
    const away = ({ target }: Event) => {
      if (!around.current?.contains(target as Node)) setOpen(false);
    };
    document.addEventListener("pointerdown", away);
    document.addEventListener("focusin", away);
    return () => {
      document.removeEventListener("pointerdown", away);
      document.removeEventListener("focusin", away);
    };
  }, [open]);
  function choose(day: DateValue) {
    const { year, month, day: date } = day;
    take(known ? known.set({ year, month, day: date }) : valueOf(kind, `${day}T${USUAL_TIME}`));
    setOpen(false);
    around.current?.querySelector<HTMLElement>("[role=spinbutton]")?.focus();
  }
  return (
    <div
      ref={around}
      className="relative"
      onKeyDown={(event) => {
        if (event.key !== "Escape" || !open) return;
        event.stopPropagation();
        setOpen(false);
        around.current?.querySelector<HTMLElement>("[role=spinbutton]")?.focus();
      }}
    >
      <DateField
        {...common(props)}
        granularity={kind === "both" ? "minute" : "day"}
        hourCycle={24}
        shouldForceLeadingZeros
        value={known}
        onChange={take}
      >
        <Name {...props} />
        <div
          className={classes(
            BOX,
            SIZES[small ? "small" : "usual"],
            (error || props.wrong) && WRONG,
          )}
        >
          <DateInput className="flex flex-1 items-center whitespace-nowrap">
            {(segment) => <Segment segment={segment} />}
          </DateInput>
          {value !== "" && !required && !disabled ? (
            <button
              type="button"
              aria-label="Leave it empty"
              className="min-h-6 min-w-6 shrink-0 cursor-pointer text-soft hover:text-ink"
              onClick={() => onChange("")}
            >
              ×
            </button>
          ) : null}
          <button
            type="button"
            aria-label="Choose from the month"
            aria-expanded={open}
            disabled={disabled}
            className="min-h-6 min-w-6 shrink-0 cursor-pointer text-tide disabled:opacity-50"
            onClick={() => setOpen(!open)}
          >
            ▾
          </button>
        </div>
        <Said {...props} />
      </DateField>
      {open ? <Month value={known} onChoose={choose} /> : null}
    </div>
  );
}

/** At what time of the day something is that was given a day alone. */
const USUAL_TIME = "09:00";

function Month({
  value,
  onChoose,
}: {
  value: DateValue | null;
  onChoose: (day: DateValue) => void;
}) {
  const turn = "min-h-8 min-w-8 cursor-pointer text-tide hover:bg-sunk";
  const sheet = useRef<HTMLDivElement>(null);
  useLayoutEffect(() => {
    const { current } = sheet;
    if (!current) return;
    current.showPopover();
    const lay = () => layOver(current);
    lay();
    // It goes along with its field.
    document.addEventListener("scroll", lay, true);
    window.addEventListener("resize", lay);
    return () => {
      document.removeEventListener("scroll", lay, true);
      window.removeEventListener("resize", lay);
    };
  }, []);
  return (
    <div
      ref={sheet}
      // Over everything, whatever frame the field stands and is cut off in.
      popover="manual"
      className="fixed m-0 border border-line-strong bg-raised p-2 text-sm text-ink shadow-lifted"
    >
      <Calendar
        autoFocus
        aria-label="Days"
        firstDayOfWeek="mon"
        value={value && toCalendarDate(value)}
        onChange={(day) => onChoose(day)}
      >
        <header className="flex items-center justify-between">
          <Button slot="previous" className={turn}>
            ←
          </Button>
          <Heading level={3} />
          <Button slot="next" className={turn}>
            →
          </Button>
        </header>
        <CalendarGrid weekdayStyle="short" className="text-center">
          {(day) => (
            <CalendarCell
              date={day}
              className="grid size-8 cursor-pointer place-items-center hover:bg-sunk data-outside-month:invisible data-selected:bg-tide data-selected:text-paper"
            />
          )}
        </CalendarGrid>
      </Calendar>
    </div>
  );
}

/** Under its field, or over it where there is no room below; within the window. */
function layOver(sheet: HTMLElement): void {
  const field = sheet.parentElement!.getBoundingClientRect();
  const { width, height } = sheet.getBoundingClientRect();
  const below = field.bottom + height + 4 <= window.innerHeight;
  const top = below ? field.bottom + 4 : Math.max(4, field.top - height - 4);
  const left = Math.max(4, Math.min(field.left, window.innerWidth - width - 4));
  Object.assign(sheet.style, { top: `${top}px`, left: `${left}px` });
}

const WRONG = "border-2 border-ember";

const common = ({ label, hideLabel, disabled, required, autoFocus, error, wrong }: Props) => ({
  ...(hideLabel && typeof label === "string" ? { "aria-label": label } : {}),
  isDisabled: disabled,
  isRequired: required,
  autoFocus,
  isInvalid: Boolean(error) || wrong,
});

const Name = ({ label, hideLabel }: Props) =>
  hideLabel ? null : <Label className="label block">{label}</Label>;

function Said({ hint, error }: Props) {
  return (
    <>
      {hint ? (
        <Text slot="description" className="mt-0.5 block text-sm text-soft">
          {hint}
        </Text>
      ) : null}
      {error ? (
        <FieldError className="mt-0.5 block text-sm text-ember">
          <span role="alert">
            <span aria-hidden="true">▲ </span>
            {error}
          </span>
        </FieldError>
      ) : null}
    </>
  );
}

type Part = Parameters<NonNullable<React.ComponentProps<typeof DateInput>["children"]>>[0];

const Segment = ({ segment }: { segment: Part }) => (
  <DateSegment
    segment={segment}
    className="rounded-[2px] px-px text-center outline-none data-[type=literal]:min-w-0 data-[type=literal]:px-0 [&[role=spinbutton]]:inline-grid [&[role=spinbutton]]:min-h-6 [&[role=spinbutton]]:min-w-6 [&[role=spinbutton]]:place-items-center data-focused:bg-tide data-focused:text-paper data-placeholder:text-soft data-placeholder:data-focused:text-paper"
  />
);

const valueOf = (kind: Kind, value: string): DateValue | null => {
  if (value === "") return null;
  return kind === "both" ? parseDateTime(value.slice(0, 16)) : parseDate(value.slice(0, 10));
};
const wallOf = (kind: Kind, value: DateValue): string =>
  value.toString().slice(0, kind === "both" ? 16 : 10);
