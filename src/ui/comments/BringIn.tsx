"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import type { BankFault, Merged } from "@/core/formats/commentBank";
import { call, sayProblem } from "../client";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { FileButton } from "../kit/FileButton";
import { TextArea, TextField } from "../kit/Field";
import { Notice } from "../kit/Notice";

const STATE_WORDS: Record<Merged["state"], string> = {
  new: "new",
  "the same": "there already",
  "nearly the same": "nearly there",
};

/** Comments from a file or a pasted list: looked over first, with what the bank has already, then brought in. */
export function BringIn({
  onBrought,
  onClose,
}: {
  onBrought: (added: number) => void;
  onClose: () => void;
}) {
  const [text, setText] = useState("");
  const [folder, setFolder] = useState("");
  const [read, setRead] = useState<{ merged: Merged[]; faults: BankFault[] } | null>(null);
  const [near, setNear] = useState<ReadonlySet<number>>(new Set());
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);

  async function attempt(work: () => Promise<void>) {
    setBusy(true);
    try {
      await work();
      setProblem(null);
    } catch (error) {
      setProblem(`${sayProblem(error)} Your bank is as it was.`);
    } finally {
      setBusy(false);
    }
  }
  const look = (given: string) =>
    attempt(async () => {
      setRead(await call(contract.readBankIn, { body: { text: given } }));
      setNear(new Set());
    });
  const bring = () =>
    attempt(async () =>
      onBrought(
        (await call(contract.bringIn, { body: { text, alsoNear: [...near], folder } })).added,
      ),
    );
  const fresh = read?.merged.filter((m) => m.state === "new").length ?? 0;
  const count = fresh + near.size;
  return (
    <Dialog open onClose={onClose} title="Bring comments in" wide>
      <div className="grid gap-3">
        {problem ? <Notice ink="ember">{problem}</Notice> : null}
        <TextArea
          label="Paste comments, one a line, or the text of a CSV or JSON file"
          rows={5}
          value={text}
          onChange={(event) => {
            setText(event.target.value);
            setRead(null);
          }}
          placeholder={"why: Why do you think so?\nWhich unit is this in?"}
        />
        <div className="flex flex-wrap items-center gap-3">
          <FileButton
            accept=".csv,.json,.txt,text/csv,application/json,text/plain"
            onFile={(file) =>
              void file.text().then((whole) => {
                setText(whole);
                return look(whole);
              })
            }
          >
            Choose a file
          </FileButton>
          <Button disabled={busy || text.trim() === ""} onClick={() => void look(text)}>
            Look it over
          </Button>
          <span className="w-64">
            <TextField
              label="Into the folder"
              hideLabel
              placeholder="into the folder (where it names none)"
              value={folder}
              onChange={(event) => setFolder(event.target.value)}
            />
          </span>
        </div>
        {read ? (
          <>
            <p>
              {read.merged.length} read: {fresh} new,{" "}
              {read.merged.filter((m) => m.state === "the same").length} there already,{" "}
              {read.merged.filter((m) => m.state === "nearly the same").length} nearly.
            </p>
            {read.faults.length > 0 ? (
              <Notice ink="ember">
                <ul className="max-h-32 list-disc overflow-auto pl-5">
                  {read.faults.map((f) => (
                    <li key={`${f.line} ${f.why}`}>
                      Line {f.line}: {f.why}
                    </li>
                  ))}
                </ul>
              </Notice>
            ) : null}
            <div
              className="max-h-72 overflow-auto border border-line"
              tabIndex={0}
              role="region"
              aria-label="What was read"
            >
              <table className="sheet-table">
                <tbody>
                  {read.merged.map((m, n) => (
                    <tr key={n}>
                      <td className="whitespace-nowrap pl-2 align-top">
                        {m.state === "nearly the same" ? (
                          <label className="flex items-center gap-1.5">
                            <input
                              type="checkbox"
                              className="size-4 accent-tide"
                              checked={near.has(n)}
                              onChange={() =>
                                setNear(
                                  (old) =>
                                    new Set(
                                      old.has(n) ? [...old].filter((k) => k !== n) : [...old, n],
                                    ),
                                )
                              }
                            />{" "}
                            bring it too
                          </label>
                        ) : (
                          <span className={m.state === "new" ? "text-moss" : "text-soft"}>
                            {STATE_WORDS[m.state]}
                          </span>
                        )}
                      </td>
                      <td>
                        {m.entry.shorthand ? (
                          <span className="mr-2 font-semibold">;{m.entry.shorthand}</span>
                        ) : null}
                        {m.entry.text}
                        {m.shorthandTaken && m.state !== "the same" ? (
                          <span className="ml-2 text-sm text-ember">
                            its shorthand is taken: it comes without
                          </span>
                        ) : null}
                        {m.state === "nearly the same" && m.like ? (
                          <span className="block text-sm text-soft">like: {m.like.text}</span>
                        ) : null}
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
          </>
        ) : null}
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>Leave it</Button>
          <Button ink="tide" disabled={busy || !read || count === 0} onClick={() => void bring()}>
            Bring {count} in
          </Button>
        </div>
      </div>
    </Dialog>
  );
}
