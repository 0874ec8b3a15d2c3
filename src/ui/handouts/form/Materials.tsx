"use client";

import { asksForWriting } from "@/core/handouts/parts";
import { useRef, useState } from "react";
import type { PlanMaterial, Work } from "@/core/handouts/plan";
import { EMPTY_DOC } from "@/core/text/richDoc";
import { Button } from "../../kit/Button";
import { SelectField } from "../../kit/Choices";
import { TextField } from "../../kit/Field";
import { Editor, useWritingEditor } from "../../piece/writing/Editor";
import { useUpload } from "../../uploads/useUpload";

/** Files, links and texts given with the task: to look at, or a copy for each student. */
export function Materials({
  work,
  setWork,
  errors,
}: {
  work: Work;
  setWork: (work: Partial<Work>) => void;
  errors: Record<string, string>;
}) {
  const picker = useRef<HTMLInputElement>(null);
  const upload = useUpload();
  const { materials } = work;
  const add = (...more: PlanMaterial[]) => setWork({ materials: [...materials, ...more] });
  const change = (id: string, part: Partial<PlanMaterial>) =>
    setWork({
      materials: materials.map((m) => (m.id === id ? ({ ...m, ...part } as PlanMaterial) : m)),
    });
  const begins = materials.some((m) => m.kind === "text" && m.use === "copy");
  const writes = asksForWriting(work.parts);
  return (
    <div role="group" aria-labelledby="materials" className="grid gap-3">
      <p id="materials" className="label">
        Materials
      </p>
      {materials.map((material, n) => (
        <div key={material.id} className="grid gap-2 border-t border-line pt-2">
          <div className="flex flex-wrap items-end gap-3">
            <span className="label w-10 pb-2">{material.kind}</span>
            <div className="min-w-48 flex-1">
              <TextField
                label="Name"
                value={material.title}
                onChange={(event) => change(material.id, { title: event.target.value })}
                error={errors[`work.materials[${n}]`]}
              />
            </div>
            {material.kind === "link" ? (
              <div className="min-w-56 flex-1">
                <TextField
                  label="Address"
                  value={material.href}
                  onChange={(event) => change(material.id, { href: event.target.value })}
                  placeholder="https://"
                />
              </div>
            ) : (
              <div className="w-52">
                <SelectField
                  label="Given as"
                  value={material.use}
                  onChange={(event) =>
                    change(material.id, { use: event.target.value as "look" | "copy" })
                  }
                >
                  <option value="look">to look at</option>
                  <option value="copy">
                    {material.kind === "text"
                      ? "a text each student writes in"
                      : "a copy for each student"}
                  </option>
                </SelectField>
              </div>
            )}
            <Button
              small
              onClick={() => setWork({ materials: materials.filter((m) => m.id !== material.id) })}
              aria-label={`Take out ${material.title || material.kind}`}
            >
              Take out
            </Button>
          </div>
          {material.kind === "text" ? (
            <TextMaterial
              material={material}
              onChange={(doc) => change(material.id, { doc } as Partial<PlanMaterial>)}
            />
          ) : null}
        </div>
      ))}
      {errors["work.materials"] ? (
        <p role="alert" className="text-sm text-ember">
          ▲ {errors["work.materials"]}
        </p>
      ) : null}
      {upload.problem ? (
        <p role="alert" className="text-sm text-ember">
          ▲ {upload.problem}
        </p>
      ) : null}
      <div className="flex flex-wrap gap-2">
        <input
          ref={picker}
          type="file"
          multiple
          className="sr-only"
          tabIndex={-1}
          aria-label="Files to give with the task"
          onChange={(event) => {
            const files = [...(event.target.files ?? [])];
            event.target.value = "";
            void upload.send(files).then((done) =>
              add(
                ...done.map((file): PlanMaterial => ({
                  id: crypto.randomUUID(),
                  kind: "file",
                  use: "look",
                  title: file.name,
                  uploadId: file.id,
                })),
              ),
            );
          }}
        />
        <Button small disabled={upload.busy} onClick={() => picker.current?.click()}>
          {upload.busy ? "Sending …" : "Add files"}
        </Button>
        <Button
          small
          onClick={() =>
            add({ id: crypto.randomUUID(), kind: "link", use: "look", title: "", href: "" })
          }
        >
          Add a link
        </Button>
        <Button
          small
          disabled={begins && writes}
          onClick={() =>
            add({
              id: crypto.randomUUID(),
              kind: "text",
              use: writes && !begins ? "copy" : "look",
              title: "Text",
              doc: EMPTY_DOC,
            })
          }
        >
          Add a text
        </Button>
      </div>
    </div>
  );
}

function TextMaterial({
  material,
  onChange,
}: {
  material: Extract<PlanMaterial, { kind: "text" }>;
  onChange: (doc: typeof material.doc) => void;
}) {
  const [first] = useState(material.doc);
  const editor = useWritingEditor({ doc: first, label: material.title || "Text", onChange });
  return (
    <div
      className="border border-line p-3"
      style={{ "--writing-height": "5rem" } as React.CSSProperties}
    >
      <Editor editor={editor} />
    </div>
  );
}
