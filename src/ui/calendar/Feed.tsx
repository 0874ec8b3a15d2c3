"use client";

import { useState, useSyncExternalStore } from "react";
import { contract } from "@/core/api/contract";
import type { FeedView } from "@/core/views/handOutViews";
import { call } from "../client";
import { Button } from "../kit/Button";
import { SelectField } from "../kit/Choices";
import { TextField } from "../kit/Field";
import { Notice } from "../kit/Notice";
import { useAct } from "../useAct";

const ALARMS = [
  { minutes: null, words: "none" },
  { minutes: 60, words: "an hour before" },
  { minutes: 720, words: "12 hours before" },
  { minutes: 1440, words: "a day before" },
  { minutes: 2880, words: "two days before" },
];

/** A private address of one's due dates: made, changed, given up. */
export function Feed({ first }: { first: FeedView }) {
  const { act, busy, problem } = useAct();
  const [feed, setFeed] = useState(first);
  const origin = useSyncExternalStore(
    () => () => {},
    () => window.location.origin,
    () => "",
  );
  const set = (alarmMinutes: number | null, newAddress: boolean) =>
    act(() => call(contract.setFeed, { body: { alarmMinutes, newAddress } })).then(
      (done) => done && setFeed(done),
    );
  if (!feed.path) {
    return (
      <>
        {problem ? <Notice ink="ember">{problem}</Notice> : null}
        <Button ink="tide" disabled={busy} onClick={() => void set(null, false)}>
          Make an address
        </Button>
      </>
    );
  }
  return (
    <div className="grid gap-5">
      {problem ? <Notice ink="ember">{problem}</Notice> : null}
      <TextField
        label="Address"
        readOnly
        value={`${origin}${feed.path}`}
        onFocus={(event) => event.currentTarget.select()}
        className="font-mono text-sm"
      />
      <div className="max-w-60">
        <SelectField
          label="Alarm"
          value={String(feed.alarmMinutes)}
          onChange={(event) =>
            void set(event.target.value === "null" ? null : Number(event.target.value), false)
          }
        >
          {ALARMS.map((alarm) => (
            <option key={alarm.words} value={String(alarm.minutes)}>
              {alarm.words}
            </option>
          ))}
        </SelectField>
      </div>
      <div className="flex flex-wrap gap-2">
        <a href={feed.path} className="inline-flex min-h-10 items-center">
          Look at it as a file
        </a>
        <Button disabled={busy} onClick={() => void set(feed.alarmMinutes, true)}>
          Change the address
        </Button>
        <Button
          disabled={busy}
          onClick={() =>
            void act(() => call(contract.deleteFeed)).then(
              (done) => done && setFeed({ path: null, alarmMinutes: null }),
            )
          }
        >
          Give it up
        </Button>
      </div>
    </div>
  );
}
