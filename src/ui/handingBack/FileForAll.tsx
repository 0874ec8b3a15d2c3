"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import { sayCount } from "@/core/text/sayCount";
import { call } from "../client";
import { Notice } from "../kit/Notice";
import { useAct } from "../useAct";
import { useUpload } from "../uploads/useUpload";

/** A file that goes back with all those chosen: laid into their drafts at once. */
export function FileForAll({ pieceIds }: { pieceIds: readonly string[] }) {
  const { send, busy, problem } = useUpload();
  const { act, problem: refused } = useAct();
  const [done, setDone] = useState<string[]>([]);
  async function add(list: FileList | null) {
    for (const upload of await send([...(list ?? [])])) {
      const body = { uploadId: upload.id, pieceIds: [...pieceIds] };
      if (await act(() => call(contract.addReturnedFile, { body })))
        setDone((old) => [...old, `${upload.name}: with ${sayCount(pieceIds.length, "piece")}`]);
    }
  }
  return (
    <div>
      <span className="label block">a file for all of them (optional)</span>
      <label className="inline-flex min-h-9 cursor-pointer items-center border border-line-strong bg-raised px-3 hover:bg-sunk max-sm:min-h-11">
        {busy ? "Sending …" : "Choose a file"}
        <input
          type="file"
          className="sr-only"
          disabled={busy || pieceIds.length === 0}
          onChange={(event) => void add(event.target.files)}
        />
      </label>
      {done.map((line) => (
        <p key={line} className="text-sm text-moss">
          ✓ {line}
        </p>
      ))}
      {(problem ?? refused) ? <Notice ink="ember">{problem ?? refused}</Notice> : null}
    </div>
  );
}
