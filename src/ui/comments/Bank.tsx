"use client";

import { useMemo, useState } from "react";
import { contract } from "@/core/api/contract";
import { lookUp } from "@/core/comments/lookup";
import type { CommentView } from "@/core/views/views";
import { call, Problem, sayProblem } from "../client";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { TextArea, TextField } from "../kit/Field";
import { Empty, Notice } from "../kit/Notice";

type Form = { id: string | null; revision: number; text: string; shorthand: string; nature: "remark" | "request"; favourite: string };
const NEW: Form = { id: null, revision: 0, text: "", shorthand: "", nature: "remark", favourite: "" };

/** The comment bank on the Shelf: everything said more than once, with its shorthand and its key. */
export function Bank({ first }: { first: CommentView[] }) {
  const [bank, setBank] = useState(first);
  const [search, setSearch] = useState("");
  const [form, setForm] = useState<Form | null>(null);
  const [fields, setFields] = useState<Readonly<Record<string, string>>>({});
  const [problem, setProblem] = useState<string | null>(null);
  const [deleted, setDeleted] = useState<CommentView | null>(null);
  const shown = useMemo(() => (search.trim() ? lookUp(bank, search, 2000) : bank), [bank, search]);

  const open = (comment: CommentView | null) => {
    setFields({});
    setProblem(null);
    setForm(comment ? { id: comment.id, revision: comment.revision, text: comment.text, shorthand: comment.shorthand ?? "", nature: comment.nature, favourite: comment.favourite ? String(comment.favourite) : "" } : NEW);
  };
  async function save(given: Form) {
    const body = { text: given.text, shorthand: given.shorthand.replace(/^;/, ""), nature: given.nature, favourite: given.favourite ? Number(given.favourite) : null };
    try {
      if (given.id) await call(contract.changeComment, { params: { commentId: given.id }, body, revision: given.revision });
      else await call(contract.addComment, { body });
      setBank(await call(contract.comments));
      setForm(null);
      setDeleted(null);
    } catch (error) {
      if (error instanceof Problem) setFields(error.fields);
      setProblem(sayProblem(error));
    }
  }
  async function remove(comment: CommentView) {
    try {
      await call(contract.deleteComment, { params: { commentId: comment.id } });
      setBank((old) => old.filter((c) => c.id !== comment.id));
      setDeleted(comment);
    } catch (error) {
      setProblem(sayProblem(error));
    }
  }

  return (
    <>
      <div className="mb-4 flex flex-wrap items-end gap-3">
        <div className="w-72">
          <TextField label="Find a comment" value={search} onChange={(event) => setSearch(event.target.value)} placeholder="shorthand, or words in any order" />
        </div>
        <p className="text-sm text-soft">
          {shown.length} of {bank.length}
        </p>
        <span className="ml-auto">
          <Button ink="tide" onClick={() => open(null)}>
            New comment
          </Button>
        </span>
      </div>
      {problem && !form ? <Notice ink="ember" className="mb-3">{problem}</Notice> : null}
      {deleted ? (
        <Notice ink="moss" className="mb-3" acts={<Button small onClick={() => void save({ ...NEW, text: deleted.text, shorthand: deleted.shorthand ?? "", nature: deleted.nature, favourite: deleted.favourite ? String(deleted.favourite) : "" })}>Bring it back</Button>}>
          Taken out of the bank: “{deleted.text.slice(0, 60)}”. Marks made with it stay as they are.
        </Notice>
      ) : null}
      {shown.length === 0 ? (
        <Empty title={bank.length === 0 ? "The bank is empty" : "No comment fits"}>{bank.length === 0 ? "Put in what you write most often; on the Desk ; and its shorthand bring it." : "Try fewer words."}</Empty>
      ) : (
        <table className="sheet-table">
          <thead>
            <tr className="label">
              <th scope="col">key</th>
              <th scope="col">shorthand</th>
              <th scope="col">comment</th>
              <th scope="col">kind</th>
              <th scope="col">used</th>
              <th scope="col">
                <span className="sr-only">acts</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {shown.map((comment) => (
              <tr key={comment.id}>
                <td>{comment.favourite ? <kbd className="border border-line-strong bg-sunk px-1.5">{comment.favourite}</kbd> : null}</td>
                <td className="whitespace-nowrap">{comment.shorthand ? `;${comment.shorthand}` : ""}</td>
                <td>{comment.text}</td>
                <td className={comment.nature === "request" ? "text-ember" : "text-soft"}>{comment.nature}</td>
                <td className="whitespace-nowrap text-soft" title={comment.lastUsed ? `last ${comment.lastUsed}` : undefined}>
                  {comment.usedCount > 0 ? `${comment.usedCount} ×` : "–"}
                </td>
                <td className="text-right whitespace-nowrap">
                  <Button small ink="quiet" onClick={() => open(comment)} aria-label={`Change: ${comment.text}`}>
                    Change
                  </Button>
                  <Button small ink="quiet" onClick={() => void remove(comment)} aria-label={`Take out: ${comment.text}`}>
                    Take out
                  </Button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {form ? (
        <Dialog open onClose={() => setForm(null)} title={form.id ? "Change the comment" : "New comment"}>
          <form
            className="grid gap-3"
            onSubmit={(event) => {
              event.preventDefault();
              void save(form);
            }}
          >
            {problem && Object.keys(fields).length === 0 ? <Notice ink="ember">{problem}</Notice> : null}
            <TextArea label="Comment" rows={3} autoFocus value={form.text} onChange={(event) => setForm({ ...form, text: event.target.value })} error={fields.text} hint="{name} becomes the student’s name, {title} the work’s" />
            <div className="grid grid-cols-2 gap-3">
              <TextField label="Shorthand" value={form.shorthand} onChange={(event) => setForm({ ...form, shorthand: event.target.value })} error={fields.shorthand} hint="typed after ;" />
              <TextField label="Key (1 to 9)" inputMode="numeric" value={form.favourite} onChange={(event) => setForm({ ...form, favourite: event.target.value.replace(/[^1-9]/g, "").slice(-1) })} error={fields.favourite} hint="empty: none" />
            </div>
            <div className="flex gap-6" role="radiogroup" aria-label="Kind">
              {(["remark", "request"] as const).map((nature) => (
                <label key={nature} className="flex items-center gap-2">
                  <input type="radio" name="nature" className="size-5 accent-tide" checked={form.nature === nature} onChange={() => setForm({ ...form, nature })} /> {nature === "remark" ? "a remark" : "a request: asks the student to do something"}
                </label>
              ))}
            </div>
            <div className="mt-2 flex justify-end gap-2">
              <Button onClick={() => setForm(null)}>Leave it</Button>
              <Button ink="tide" type="submit">
                Keep
              </Button>
            </div>
          </form>
        </Dialog>
      ) : null}
    </>
  );
}
