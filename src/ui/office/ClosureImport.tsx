"use client";

import { useRef, useState } from "react";
import { contract } from "@/core/api/contract";
import { calendarText } from "@/core/formats/calendar/calendarText";
import type { ClosureImport as Found } from "@/core/views/handOutViews";
import { call } from "../client";
import { Button } from "../kit/Button";
import { SelectField } from "../kit/Choices";
import { Notice } from "../kit/Notice";
import { sayDate } from "../time";
import { useAct } from "../useAct";

const MOST = 5_000_000;

/** Holidays from an iCalendar file: see what is in it, choose, take over. */
export function ClosureImport() {
  const { act, busy, problem, setProblem } = useAct();
  const picker = useRef<HTMLInputElement>(null);
  const [file, setFile] = useState<CalendarGiven | null>(null);
  const [found, setFound] = useState<Found | null>(null);
  const [chosen, setChosen] = useState<Set<string>>(new Set());

  async function look(given: File) {
    setFound(null);
    if (given.size > MOST)
      return setProblem(
        `${given.name} has ${Math.round(given.size / 1_000_000)} MB. A school calendar has 5 MB at most; export the holidays alone.`,
      );
    const text = calendarText(new Uint8Array(await given.arrayBuffer()));
    await read({ name: given.name, text, zones: [] });
  }
  async function read(given: CalendarGiven) {
    setFile(given);
    const seen = await act(() =>
      call(contract.importClosures, {
        body: { source: given.name, text: given.text, chosen: null, zones: given.zones },
      }),
    );
    if (!seen) return;
    setFound(seen);
    // All-day entries are what closes a school; an evening meeting is not, unless someone says so.
    setChosen(new Set(seen.lines.filter((l) => l.allDay || l.what !== "new").map((l) => l.key)));
  }
  const take = () =>
    file &&
    act(() =>
      call(contract.importClosures, {
        body: { source: file.name, text: file.text, chosen: [...chosen], zones: file.zones },
      }),
    ).then((done) => done && setFound(done));
  const toggle = (key: string) =>
    setChosen((old) => {
      const next = new Set(old);
      if (!next.delete(key)) next.add(key);
      return next;
    });
  return (
    <section aria-labelledby="import">
      <h2 id="import">From a calendar file</h2>
      <p className="mt-1 text-soft">
        An iCalendar file (.ics). Nothing changes before you have seen what is in it.
      </p>
      <input
        ref={picker}
        type="file"
        accept=".ics,text/calendar"
        className="sr-only"
        tabIndex={-1}
        aria-label="Calendar file"
        onChange={(event) => {
          const given = event.target.files?.[0];
          event.target.value = "";
          if (given) void look(given);
        }}
      />
      <Button className="mt-2" disabled={busy} onClick={() => picker.current?.click()}>
        {busy ? "One moment …" : "Choose a file"}
      </Button>
      {problem ? (
        <Notice ink="ember" className="mt-3">
          {problem}
        </Notice>
      ) : null}
      {file && found ? <Zones file={file} found={found} busy={busy} onMeant={read} /> : null}
      {found ? (
        <InTheFile
          found={found}
          chosen={chosen}
          busy={busy}
          onToggle={toggle}
          onTake={() => void take()}
        />
      ) : null}
    </section>
  );
}

type CalendarGiven = { name: string; text: string; zones: { name: string; zone: string }[] };

/** Names of time zones that are in the file and in no list of zones: the office says what they mean. */
function Zones({
  file,
  found,
  busy,
  onMeant,
}: {
  file: CalendarGiven;
  found: Found;
  busy: boolean;
  onMeant: (file: CalendarGiven) => Promise<void>;
}) {
  const asked = [...new Set([...file.zones.map((zone) => zone.name), ...found.unknownZones])];
  if (asked.length === 0) return null;
  const meant = (name: string) => file.zones.find((zone) => zone.name === name)?.zone ?? "";
  const mean = (name: string, zone: string) => {
    const others = file.zones.filter((one) => one.name !== name);
    void onMeant({ ...file, zones: zone ? [...others, { name, zone }] : others });
  };
  return (
    <div className="mt-3 grid max-w-md gap-2">
      {asked.map((name) => (
        <SelectField
          key={name}
          label={`Which time zone is “${name}”?`}
          hint="The file does not say. Until you do, its times are read as the school’s own."
          value={meant(name)}
          disabled={busy}
          onChange={(event) => mean(name, event.target.value)}
        >
          <option value="">the school’s own</option>
          {Intl.supportedValuesOf("timeZone").map((zone) => (
            <option key={zone}>{zone}</option>
          ))}
        </SelectField>
      ))}
    </div>
  );
}

type InTheFileProps = {
  found: Found;
  chosen: ReadonlySet<string>;
  busy: boolean;
  onToggle: (key: string) => void;
  onTake: () => void;
};

function InTheFile({ found, chosen, busy, onToggle, onTake }: InTheFileProps) {
  const touched = ({ key, what }: Line) =>
    chosen.has(key) ? what !== "unchanged" : what !== "new";
  const changes = found.lines.filter(touched).length + found.gone.length;
  return (
    <div className="mt-3 grid gap-2 border border-line-strong p-4">
      {[...found.faults, ...found.notes].map((words) => (
        <p key={words} className="text-sm text-ember">
          ▲ {words}
        </p>
      ))}
      {found.applied > 0 ? <Notice ink="moss">Taken over: {found.applied} entries.</Notice> : null}
      <ul className="max-h-80 overflow-y-auto" tabIndex={0} aria-label="Entries of the file">
        {found.lines.map((line) => (
          <li key={line.key}>
            <Entry line={line} chosen={chosen.has(line.key)} onToggle={() => onToggle(line.key)} />
          </li>
        ))}
      </ul>
      {found.gone.length > 0 ? (
        <p className="text-sm">
          No longer in the file, and would go:{" "}
          {found.gone.map((g) => `${g.name} (${sayDate(g.startsOn)})`).join(", ")}.
        </p>
      ) : null}
      {(found.faults.length === 0 || found.lines.length > 0) && found.applied === 0 ? (
        <TakeOver entries={chosen.size} changes={changes} busy={busy} onTake={onTake} />
      ) : null}
    </div>
  );
}

type Line = Found["lines"][number];

function Entry(props: { line: Line; chosen: boolean; onToggle: () => void }) {
  const { line, chosen, onToggle } = props;
  const about = [
    line.allDay ? "" : "has a time of day",
    line.recurring ? "repeats" : "",
    line.what,
  ];
  return (
    <label className="flex flex-wrap items-center gap-x-3 border-t border-line py-1">
      <input type="checkbox" className="size-4 accent-tide" checked={chosen} onChange={onToggle} />
      <span className="w-52 text-sm">
        {sayDate(line.startsOn)}
        {line.endsOn === line.startsOn ? "" : ` to ${sayDate(line.endsOn)}`}
      </span>
      <span className="flex-1">{line.name}</span>
      <span className="text-sm text-soft">{about.filter(Boolean).join(", ")}</span>
    </label>
  );
}

type TakeOverProps = { entries: number; changes: number; busy: boolean; onTake: () => void };

const TakeOver = ({ entries, changes, busy, onTake }: TakeOverProps) =>
  changes === 0 ? (
    <p className="text-moss">✓ All of it is here already.</p>
  ) : (
    <div>
      <Button ink="tide" disabled={busy} onClick={onTake}>
        Take over {entries} entries
      </Button>
    </div>
  );
