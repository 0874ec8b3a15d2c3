import type { ReturnedFile } from "@/core/rounds/cameBack";
import { saySize } from "../../transfers/saySize";

/** Files that came back with the feedback of a round. */
export function ReturnedFiles({ files }: { files: readonly ReturnedFile[] }) {
  if (files.length === 0) return null;
  return (
    <ul className="mt-3" aria-label="Files that came back">
      {files.map((file) => (
        <li key={file.id}>
          <a
            href={`/api/uploads/${file.id}`}
            className="inline-flex min-h-9 items-center gap-2 max-sm:min-h-11"
          >
            <span aria-hidden="true">⤓</span> {file.name}{" "}
            <span className="text-sm text-soft">{saySize(file.size)}</span>
          </a>
        </li>
      ))}
    </ul>
  );
}
