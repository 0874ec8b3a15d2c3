"use client";

import { unzipSync } from "fflate";
import { useState } from "react";
import { contract } from "@/core/api/contract";
import {
  CONTENTS_NAME,
  crc32,
  matchFiles,
  type Contents,
  type Matched,
} from "@/core/fetching/comeBack";
import { sayCount } from "@/core/text/sayCount";
import { call, sayProblem } from "../client";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { Notice } from "../kit/Notice";

/** More than this a browser should not hold at once. */
const MOST = 300_000_000;
const MOST_FILE = 25_000_000;

type Looked = { bytes: Uint8Array; files: Matched[] };

/** A zip of marked files comes back: what matches is listed first, and then lies in the drafts, not handed back. */
export function BringBack({ handOutId, onClose }: { handOutId: string; onClose: () => void }) {
  const [looked, setLooked] = useState<Looked | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [laid, setLaid] = useState<number | null>(null);
  const [busy, setBusy] = useState(false);
  async function look(file: File | undefined) {
    if (!file) return;
    setProblem(null);
    setLooked(null);
    try {
      setLooked(await lookInto(file, handOutId));
    } catch (error) {
      setProblem(error instanceof Unusable ? error.message : sayProblem(error));
    }
  }
  async function lay({ bytes, files }: Looked) {
    setBusy(true);
    setProblem(null);
    let done = 0;
    try {
      for (const file of files.filter(goes)) {
        await layOne(bytes, file);
        done += 1;
        setLaid(done);
      }
    } catch (error) {
      setProblem(`${sayProblem(error)} ${done} of them lie in the drafts; bring the zip again.`);
    } finally {
      setBusy(false);
    }
  }
  const going = looked?.files.filter(goes) ?? [];
  return (
    <Dialog open wide onClose={onClose} title="Bring marked files back">
      <p className="mb-3 text-soft">
        Choose the zip that was fetched here, with what you marked in it. Files find their student
        by the code in the name of the folder or of the file. Nothing is handed back: they lie in
        the drafts.
      </p>
      <label className="inline-block cursor-pointer border border-line-strong bg-raised px-3 py-1.5 hover:bg-sunk">
        Choose a zip
        <input
          type="file"
          accept=".zip,application/zip"
          className="sr-only"
          disabled={busy}
          onChange={(event) => void look(event.target.files?.[0])}
        />
      </label>
      {problem ? (
        <Notice ink="ember" className="mt-3">
          {problem}
        </Notice>
      ) : null}
      {looked ? <WhatCame files={looked.files} /> : null}
      {looked && laid === null ? (
        <div className="mt-4 flex justify-end gap-2">
          <Button onClick={onClose}>Not now</Button>
          <Button ink="tide" disabled={busy || going.length === 0} onClick={() => void lay(looked)}>
            Lay {sayCount(going.length, "file")} into the drafts
          </Button>
        </div>
      ) : null}
      {laid === null ? null : (
        <Notice ink="moss" className="mt-4">
          {laid} of {sayCount(going.length, "file")} in the drafts. They go back when you hand back.
        </Notice>
      )}
    </Dialog>
  );
}

const goes = (file: Matched): boolean => file.pieceId !== null && !file.unchanged;

class Unusable extends Error {}

/** Reads the zip on this machine; only what goes back is sent. */
async function lookInto(file: File, handOutId: string): Promise<Looked> {
  if (file.size > MOST)
    throw new Unusable("This zip has more than 300 MB. Bring it back in parts.");
  const known = await call(contract.folderCodes, { params: { handOutId } });
  const bytes = new Uint8Array(await file.arrayBuffer());
  try {
    const entries = Object.entries(unzipSync(bytes));
    const came = entries.map(([path, content]) => ({ path, crc: crc32(content) }));
    const contents = entries.find(([path]) => path.split("/").at(-1) === CONTENTS_NAME)?.[1];
    return { bytes, files: matchFiles(came, known, readContents(contents)) };
  } catch {
    throw new Unusable("This is no zip that can be read. Nothing was changed.");
  }
}

function readContents(bytes: Uint8Array | undefined): Contents {
  try {
    return bytes ? (JSON.parse(new TextDecoder().decode(bytes)) as Contents) : {};
  } catch {
    return {};
  }
}

async function layOne(bytes: Uint8Array, { path, pieceId }: Matched): Promise<void> {
  const content = unzipSync(bytes, { filter: (entry) => entry.name === path })[path]!;
  const name = path.split("/").at(-1)!;
  const file = new File([content as Uint8Array<ArrayBuffer>], name);
  const upload = await call(contract.addUpload, { file, fileName: name });
  await call(contract.addReturnedFile, { body: { uploadId: upload.id, pieceIds: [pieceId!] } });
}

function WhatCame({ files }: { files: readonly Matched[] }) {
  const groups = [
    { words: "go into the drafts", list: files.filter(goes) },
    {
      words: "belong to nobody here: no code of this hand-out in their names",
      list: files.filter((file) => file.pieceId === null),
    },
    {
      words: "are as they were fetched, and stay out",
      list: files.filter((file) => file.pieceId !== null && file.unchanged),
    },
  ];
  return (
    <div className="mt-4 grid max-h-[40dvh] gap-3 overflow-y-auto">
      {groups.map(({ words, list }) =>
        list.length === 0 ? null : (
          <section key={words}>
            <h3 className="label font-sans!">
              {list.length} {words}
            </h3>
            <ul className="text-sm">
              {list.map((file) => (
                <li key={file.path} className="border-t border-line py-1">
                  {file.student ? <strong>{file.student}</strong> : null}{" "}
                  {file.path.split("/").slice(-2).join("/")}
                  {file.by === "name" ? (
                    <span className="text-soft"> (by the folder’s name alone)</span>
                  ) : null}
                </li>
              ))}
            </ul>
          </section>
        ),
      )}
      <p className="text-sm text-soft">A file can have {MOST_FILE / 1_000_000} MB.</p>
    </div>
  );
}
