"use client";

import { useEffect, useState } from "react";
import { contract } from "@/core/api/contract";
import { call } from "../client";
import { TextField } from "../kit/Field";

type Found = { id: string; name: string; detail: string };

/** Finds a person of the school by a part of their name. */
export function FindPerson({
  kind,
  label,
  without,
  onFound,
}: {
  kind: "student" | "teacher";
  label: string;
  without: readonly string[];
  onFound: (person: Found) => void;
}) {
  const [text, setText] = useState("");
  const [found, setFound] = useState<Found[]>([]);
  useEffect(() => {
    if (text.trim().length < 2) return;
    const asked = new AbortController();
    const timer = setTimeout(
      () =>
        void call(contract.findPeople, { query: { text, kind }, signal: asked.signal }).then(
          setFound,
          () => {},
        ),
      200,
    );
    return () => {
      clearTimeout(timer);
      asked.abort();
    };
  }, [text, kind]);
  const shown = text.trim().length < 2 ? [] : found.filter((p) => !without.includes(p.id));
  return (
    <div>
      <TextField
        label={label}
        value={text}
        onChange={(event) => setText(event.target.value)}
        placeholder="a part of the name"
        autoComplete="off"
      />
      <ul aria-live="polite">
        {shown.map((person) => (
          <li key={person.id}>
            <button
              type="button"
              className="w-full cursor-pointer border-b border-line px-2 py-1.5 text-left hover:bg-sunk"
              onClick={() => {
                setText("");
                onFound(person);
              }}
            >
              {person.name} <span className="text-sm text-soft">{person.detail}</span>
            </button>
          </li>
        ))}
        {text.trim().length >= 2 && shown.length === 0 ? (
          <li className="text-sm text-soft">Nobody else in this school is called that.</li>
        ) : null}
      </ul>
    </div>
  );
}
