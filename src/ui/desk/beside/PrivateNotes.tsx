"use client";

import { useRef, useState } from "react";
import { contract } from "@/core/api/contract";
import type { DeskPiece, PrivateNote } from "@/core/views/deskViews";
import { call, sayProblem } from "../../client";
import { FileButton } from "../../kit/FileButton";
import { Button } from "../../kit/Button";
import { WritingField } from "../../comments/WritingField";
import { RadioLine } from "../../kit/Choices";

type Attached = { id: string; name: string };

/** Notes for the section's teachers alone, on this piece or on its student, with files. */
export function PrivateNotes({
  piece,
  onNotes,
}: {
  piece: Pick<DeskPiece, "id" | "anonymous" | "called" | "privateNotes">;
  onNotes: (notes: PrivateNote[]) => void;
}) {
  const [body, setBody] = useState("");
  const [about, setAbout] = useState<"piece" | "student">("piece");
  const [files, setFiles] = useState<Attached[]>([]);
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const key = useRef<string | null>(null);

  async function attempt(work: () => Promise<void>) {
    setBusy(true);
    try {
      await work();
      setProblem(null);
    } catch (error) {
      setProblem(sayProblem(error));
    } finally {
      setBusy(false);
    }
  }
  const send = () =>
    attempt(async () => {
      key.current ??= crypto.randomUUID();
      onNotes(
        await call(contract.addPrivateNote, {
          params: { pieceId: piece.id },
          body: { about, body: body.trim(), uploads: files.map((f) => f.id) },
          key: key.current,
        }),
      );
      key.current = null;
      setBody("");
      setFiles([]);
    });
  const attach = (file: File) =>
    attempt(async () => {
      const upload = await call(contract.addUpload, { file, fileName: file.name });
      setFiles((old) => [...old, { id: upload.id, name: upload.name }]);
    });

  return (
    <>
      <p className="mb-3 text-soft">
        Only the section’s teachers can read these. They are in nothing a student or guardian can
        fetch.
      </p>
      {problem ? (
        <p role="alert" className="mb-2 text-ember">
          ▲ {problem} What you wrote is still here.
        </p>
      ) : null}
      <ul className="mb-4">
        {piece.privateNotes.map((note) => (
          <li key={note.id} className="border-b border-line py-2">
            <p className="flex items-baseline gap-2 text-soft">
              <span>
                {note.mine ? "I" : note.by}, {note.when} · on the {note.about}
              </span>
              {note.mine ? (
                <Button
                  small
                  ink="quiet"
                  className="ml-auto"
                  disabled={busy}
                  onClick={() =>
                    void attempt(async () =>
                      onNotes(
                        await call(contract.deletePrivateNote, {
                          params: { pieceId: piece.id, noteId: note.id },
                        }),
                      ),
                    )
                  }
                >
                  Take away
                </Button>
              ) : null}
            </p>
            <p className="whitespace-pre-wrap">{note.body}</p>
            {note.files.map((file) => (
              <a key={file.id} href={file.href} className="mr-3">
                {file.name}
              </a>
            ))}
          </li>
        ))}
      </ul>
      <form
        className="grid gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (body.trim() !== "") void send();
        }}
      >
        <WritingField
          label="Private note"
          rows={3}
          value={body}
          onChange={(text) => {
            setBody(text);
            key.current = null;
          }}
        />
        {piece.anonymous ? null : (
          <RadioLine
            label="About"
            hideLabel
            value={about}
            onChange={setAbout}
            choices={[
              { value: "piece", words: "on this piece" },
              { value: "student", words: `on ${piece.called}, in this section` },
            ]}
          />
        )}
        {files.map((file) => (
          <p key={file.id} className="flex items-baseline gap-2">
            {file.name}
            <Button
              small
              ink="quiet"
              onClick={() => setFiles((old) => old.filter((f) => f.id !== file.id))}
            >
              Take off
            </Button>
          </p>
        ))}
        <div className="flex flex-wrap items-center gap-2">
          <FileButton small onFile={(file) => void attach(file)}>
            Add a file
          </FileButton>
          <Button
            type="submit"
            ink="tide"
            small
            className="ml-auto"
            disabled={busy || body.trim() === ""}
          >
            Keep the note
          </Button>
        </div>
      </form>
    </>
  );
}
