"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import type { MaterialView, PieceView } from "@/core/views/views";
import { call, sayProblem } from "../client";
import { RichText } from "../text/RichText";
import { RubricTable } from "../rubrics/RubricTable";
import type { SetView } from "./useAnswers";

/** What came with the task: materials, the student's own copies, how it counts. */
export function GivenWith({ view, setView }: { view: PieceView; setView: SetView }) {
  const goal = [
    view.wordGoal.least ? `at least ${view.wordGoal.least} words` : "",
    view.wordGoal.most ? `at most ${view.wordGoal.most} words` : "",
  ]
    .filter(Boolean)
    .join(", ");
  const lines = [goal, view.roundsRule ?? "", view.late ? `late work: ${view.late}` : ""].filter(
    Boolean,
  );
  return (
    <>
      {view.materials.length > 0 ? (
        <ul aria-label="Materials" className="mt-3 grid gap-2 border-t border-line pt-3">
          {view.materials.map((material) => (
            <Material key={material.id} material={material} view={view} setView={setView} />
          ))}
        </ul>
      ) : null}
      {lines.length > 0 ? (
        <ul className="mt-3 list-disc border-t border-line pt-3 pl-5 text-sm text-soft">
          {lines.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      ) : null}
      {view.rubric ? (
        <details className="mt-3">
          <summary className="label cursor-pointer">How it is judged: {view.rubric.name}</summary>
          <RubricTable rubric={view.rubric.rubric} />
        </details>
      ) : null}
    </>
  );
}

function Material({
  material,
  view,
  setView,
}: {
  material: MaterialView;
  view: PieceView;
  setView: SetView;
}) {
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  async function replace(file: File) {
    setBusy(true);
    setProblem(null);
    try {
      const saved = await call(contract.saveCopy, {
        params: { pieceId: view.id, materialId: material.id },
        file,
        fileName: file.name,
      });
      setView((old) => ({
        ...old,
        materials: old.materials.map((m) =>
          m.id === material.id
            ? {
                ...m,
                href: `/api/uploads/${saved.uploadId}`,
                own: { uploadId: saved.uploadId, when: saved.when },
              }
            : m,
        ),
      }));
    } catch (error) {
      setProblem(`${file.name} was not taken: ${sayProblem(error)}`);
    }
    setBusy(false);
  }
  if (material.kind === "text" && material.doc) {
    return (
      <li>
        <details>
          <summary className="cursor-pointer">{material.title}</summary>
          <div className="mt-2 border-l border-line pl-4">
            <RichText doc={material.doc} />
          </div>
        </details>
      </li>
    );
  }
  return (
    <li>
      <a
        href={material.href ?? "#"}
        {...(material.kind === "link" ? { target: "_blank", rel: "noopener noreferrer" } : {})}
      >
        {material.title}
      </a>
      {material.own ? (
        <span className="ml-2 text-sm text-soft">
          your own copy{material.own.when ? `, changed ${material.own.when}` : ""}{" "}
          {view.locked === null || view.expects === "nothing" ? (
            <label className="cursor-pointer text-tide underline">
              {busy ? "Sending …" : "put a changed one in its place"}
              <input
                type="file"
                className="sr-only"
                disabled={busy}
                onChange={(event) => {
                  const file = event.target.files?.[0];
                  event.target.value = "";
                  if (file) void replace(file);
                }}
              />
            </label>
          ) : null}
        </span>
      ) : null}
      {problem ? (
        <p role="alert" className="text-sm text-ember">
          ▲ {problem}
        </p>
      ) : null}
    </li>
  );
}
