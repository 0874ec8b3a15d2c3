"use client";

import { contract } from "@/core/api/contract";
import { saySize } from "../../transfers/saySize";
import type { ReturnedFile } from "@/core/rounds/cameBack";
import { call } from "../../client";
import { Button } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { useUpload } from "../../uploads/useUpload";
import { usePieceOnDesk } from "../model";

/** Files that go back with the draft on the Desk: a marked copy made elsewhere, an article. */
export function FilesBack() {
  const { session, piece } = usePieceOnDesk();
  const { send, busy, problem } = useUpload();
  const { store } = session;
  const show = (returned: ReturnedFile[]) => store.patch((old) => ({ ...old, returned }));
  async function add(list: FileList | null) {
    for (const upload of await send([...(list ?? [])])) {
      const body = { uploadId: upload.id, pieceIds: [piece.id] };
      const added = await store.attempt(() => call(contract.addReturnedFile, { body }));
      const { id, name, size } = upload;
      if (added)
        store.patch((old) => ({ ...old, returned: [...old.returned, { id, name, size }] }));
    }
  }
  const remove = (uploadId: string) =>
    void store
      .attempt(() => call(contract.removeReturnedFile, { params: { pieceId: piece.id, uploadId } }))
      .then((answer) => answer && show(answer.files));
  return (
    <>
      <p className="mb-3 text-soft">
        What lies here goes back with the feedback of this round, and stays with it. Until then only
        teachers see it.
      </p>
      {problem ? <Notice ink="ember">{problem}</Notice> : null}
      <ul className="mb-3">
        {piece.returned.map((file) => (
          <li key={file.id} className="flex items-center gap-2 border-b border-line py-1">
            <a href={`/api/uploads/${file.id}`} className="min-w-0 flex-1 truncate">
              {file.name}
            </a>
            <span className="text-soft">{saySize(file.size)}</span>
            <Button small ink="quiet" onClick={() => remove(file.id)}>
              Take out<span className="sr-only"> {file.name}</span>
            </Button>
          </li>
        ))}
      </ul>
      <label className="inline-block cursor-pointer border border-line-strong bg-raised px-3 py-1.5 hover:bg-sunk">
        {busy ? "Sending …" : "Add a file"}
        <input
          type="file"
          multiple
          className="sr-only"
          disabled={busy}
          onChange={(event) => void add(event.target.files)}
        />
      </label>
    </>
  );
}
