import type { SentFile } from "@/core/threads/message";
import { saySize } from "../transfers/saySize";

/** The files that came with a message; each is fetched by a press. */
export function SentFiles({ files }: { files: readonly SentFile[] }) {
  if (files.length === 0) return null;
  return (
    <ul aria-label="Files">
      {files.map((file) => (
        <li key={file.id}>
          <a
            href={`/api/uploads/${file.id}`}
            className="inline-block max-w-full truncate align-bottom max-sm:min-h-11 max-sm:leading-[2.75rem]"
          >
            {file.name}
          </a>{" "}
          <span className="text-sm text-soft">{saySize(file.size)}</span>
        </li>
      ))}
    </ul>
  );
}
