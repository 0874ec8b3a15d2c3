"use client";

import { MOST_IN_A_MESSAGE, type SentFile } from "@/core/threads/message";
import { Button } from "../kit/Button";
import { saySize } from "../transfers/saySize";
import { forThread, useUpload } from "../uploads/useUpload";

type Props = {
  pieceId: string;
  files: readonly SentFile[];
  onFiles: (files: SentFile[]) => void;
};

/** Files that are to go with a message: each is on the server before it is sent, and seen by its sender alone till then. */
export function FilesToSend({ pieceId, files, onFiles }: Props) {
  const { send, busy, problem } = useUpload(forThread(pieceId));
  const room = MOST_IN_A_MESSAGE - files.length;
  async function add(list: FileList | null) {
    const sent = await send([...(list ?? [])].slice(0, room));
    onFiles([...files, ...sent.map(({ id, name, size }) => ({ id, name, size }))]);
  }
  return (
    <div className="min-w-0">
      {room > 0 ? (
        <label className="inline-block cursor-pointer px-2 py-1 text-sm text-tide underline max-sm:min-h-11 max-sm:leading-9">
          {busy ? "Sending …" : "Add a file"}
          <input
            type="file"
            multiple
            className="sr-only"
            disabled={busy}
            onChange={(event) => void add(event.target.files)}
          />
        </label>
      ) : null}
      {problem ? (
        <p role="alert" className="text-sm text-ember">
          ▲ {problem}
        </p>
      ) : null}
      <ul>
        {files.map((file) => (
          <li key={file.id} className="flex items-center gap-2 text-sm">
            <span className="min-w-0 truncate">{file.name}</span>
            <span className="text-soft">{saySize(file.size)}</span>
            <Button
              small
              ink="quiet"
              onClick={() => onFiles(files.filter((f) => f.id !== file.id))}
            >
              Take out<span className="sr-only"> {file.name}</span>
            </Button>
          </li>
        ))}
      </ul>
    </div>
  );
}
