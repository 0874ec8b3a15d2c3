"use client";

import { useRouter } from "next/navigation";
import { useEffect, useRef, useState } from "react";
import { contract } from "@/core/api/contract";
import type { RosterRunView } from "@/core/views/handOutViews";
import { call, sayProblem } from "../client";
import { Button } from "../kit/Button";
import { CheckField, TextArea } from "../kit/Field";
import { Notice } from "../kit/Notice";
import { RosterReport } from "./RosterReport";

const OF_A_SECTION = {
  label: "A student a line: names, and e-mail addresses if they have any",
  example: "Aino Kallas-Ferreira\taino@school.example",
};
const OF_THE_SCHOOL = {
  label: "or paste a table",
  example: "name; e-mail; section; course; role",
};

/** Brings in a roster: choose or paste, see what it would change, then apply all of it or nothing. */
export function RosterImport({
  sectionId,
  records = false,
}: {
  sectionId: string | null;
  /** Whether a records system can be asked. */
  records?: boolean;
}) {
  const router = useRouter();
  const picker = useRef<HTMLInputElement>(null);
  const [text, setText] = useState("");
  const [complete, setComplete] = useState(false);
  const [run, setRun] = useState<RosterRunView | null>(null);
  const [busy, setBusy] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);

  async function check(file: Blob, name: string, from: "file" | "records" = "file") {
    setBusy(from === "records" ? "Asking the records …" : "Looking at it …");
    setProblem(null);
    setRun(null);
    const query = {
      ...(complete ? { complete: "1" } : {}),
      ...(from === "records" ? { from } : {}),
    };
    try {
      setRun(
        sectionId
          ? await call(contract.checkSectionRoster, {
              params: { sectionId },
              query,
              file,
              fileName: name,
            })
          : await call(contract.checkRoster, { query, file, fileName: name }),
      );
    } catch (error) {
      setProblem(sayProblem(error));
    }
    setBusy(null);
  }

  async function apply() {
    if (!run) return;
    setBusy("Applying …");
    setProblem(null);
    try {
      setRun(await call(contract.applyRoster, { params: { runId: run.id } }));
    } catch (error) {
      setProblem(sayProblem(error));
      setBusy(null);
    }
  }

  // While it is applied, it is asked every half second how far it is.
  const applying = run?.state === "applying" ? run.id : null;
  useEffect(() => {
    if (!applying) return;
    const timer = setInterval(() => {
      void call(contract.rosterRun, { params: { runId: applying } }).then(
        (next) => {
          setRun(next);
          if (next.state === "applying") return;
          setBusy(null);
          router.refresh();
        },
        () => {},
      );
    }, 500);
    return () => clearInterval(timer);
  }, [applying, router]);

  const words = sectionId ? OF_A_SECTION : OF_THE_SCHOOL;
  return (
    <div className="mt-3 grid gap-3">
      {sectionId ? null : (
        <div className="flex flex-wrap items-center gap-2">
          <input
            ref={picker}
            type="file"
            accept=".zip,.csv,.txt,.tsv"
            className="sr-only"
            tabIndex={-1}
            aria-label="Roster file"
            onChange={(event) => {
              const file = event.target.files?.[0];
              event.target.value = "";
              if (file) void check(file, file.name);
            }}
          />
          <Button ink="tide" disabled={busy !== null} onClick={() => picker.current?.click()}>
            Choose a file
          </Button>
          {records ? (
            <Button
              disabled={busy !== null}
              onClick={() => void check(new Blob([]), "records", "records")}
            >
              Ask the school records
            </Button>
          ) : null}
          <span className="text-sm text-soft">
            a OneRoster 1.2 CSV package (zip), or a table: name, e-mail, section, course, role
          </span>
        </div>
      )}
      <TextArea
        label={words.label}
        rows={5}
        value={text}
        onChange={(event) => setText(event.target.value)}
        placeholder={words.example}
        className="font-mono text-sm"
      />
      <div className="flex flex-wrap items-center gap-x-5 gap-y-2">
        <Button
          small
          disabled={busy !== null || text.trim() === ""}
          onClick={() => void check(new Blob([text]), "pasted table")}
        >
          See what it would change
        </Button>
        <CheckField
          label="The table is complete: who is not in it leaves"
          checked={complete}
          onChange={(event) => setComplete(event.target.checked)}
        />
      </div>
      <Busy busy={busy} run={run} />
      {problem ? <Notice ink="ember">{problem}</Notice> : null}
      {run ? <RosterReport run={run} busy={busy !== null} onApply={() => void apply()} /> : null}
    </div>
  );
}

function Busy({ busy, run }: { busy: string | null; run: RosterRunView | null }) {
  if (!busy) return null;
  return (
    <p role="status" className="text-soft">
      {run?.state === "applying" ? `Applying: ${run.progress}` : busy}
    </p>
  );
}
