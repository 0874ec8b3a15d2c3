"use client";

import { shorten } from "@/core/text/shorten";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useMemo, useRef, useState } from "react";
import { contract } from "@/core/api/contract";
import { commentBodyOf } from "@/core/comments/schema";
import { repeatsIn } from "@/core/comments/alike";
import { lookUp } from "@/core/comments/lookup";
import { STAMP_SIGNS } from "@/core/marks/mark";
import type { CommentView } from "@/core/views/views";
import { call, sayProblem } from "../client";
import { Button } from "../kit/Button";
import { TextField } from "../kit/Field";
import { Empty, Notice } from "../kit/Notice";
import { classes } from "../kit/classes";
import { BringIn } from "./BringIn";
import { CommentDialog, formOf, NEW_COMMENT, type CommentForm } from "./CommentForm";

type Filter =
  | { kind: "all" }
  | { kind: "folder"; path: string }
  | { kind: "tag"; tag: string }
  | { kind: "shared" }
  | { kind: "repeats" };

/** The comment bank on the Shelf: everything said more than once, in folders, with its shorthand and its key. */
export function Bank({
  first,
  courses,
  find,
}: {
  first: CommentView[];
  courses: { id: string; name: string }[];
  /** What is looked for to begin with. */ find: string;
}) {
  const [bank, setBank] = useState(first);
  const [search, setSearch] = useState(find);
  const [filter, setFilter] = useState<Filter>({ kind: "all" });
  const [form, setForm] = useState<CommentForm | null>(null);
  const [bringing, setBringing] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const [said, setSaid] = useState<{ words: string; undo: CommentView | null } | null>(null);
  const folders = useMemo(
    () => [...new Set(bank.flatMap((c) => pathsOf(c.folder)))].sort(),
    [bank],
  );
  const tags = useMemo(() => [...new Set(bank.flatMap((c) => c.tags))].sort(), [bank]);
  const repeats = useMemo(() => repeatsIn(bank.filter((c) => c.mine)), [bank]);
  const within = useMemo(
    () =>
      bank.filter((c) =>
        fits(
          c,
          filter,
          repeats.map((r) => r.comment.id),
        ),
      ),
    [bank, filter, repeats],
  );
  const shown = useMemo(
    () => (search.trim() ? lookUp(within, search, 5000) : within),
    [within, search],
  );

  async function kept(draftsChanged: number) {
    setForm(null);
    setSaid(
      draftsChanged > 0
        ? {
            words: `${draftsChanged} ${draftsChanged === 1 ? "draft says" : "drafts say"} it the new way.`,
            undo: null,
          }
        : null,
    );
    setBank(await call(contract.comments));
  }
  async function remove(comment: CommentView) {
    try {
      await call(contract.deleteComment, { params: { commentId: comment.id } });
      setBank((old) => old.filter((c) => c.id !== comment.id));
      setSaid({
        words: `Taken out of the bank: “${shorten(comment.text, 60)}”. Marks made with it stay as they are.`,
        undo: comment,
      });
      setProblem(null);
    } catch (error) {
      setProblem(sayProblem(error));
    }
  }
  async function bringBack(c: CommentView) {
    try {
      await call(contract.addComment, {
        body: commentBodyOf(c),
      });
      setBank(await call(contract.comments));
      setSaid(null);
    } catch (error) {
      setProblem(sayProblem(error));
    }
  }

  return (
    <div className="grid gap-x-8 gap-y-4 lg:grid-cols-[13rem_minmax(0,1fr)]">
      <nav
        aria-label="Folders and tags"
        className="text-sm max-lg:flex max-lg:flex-wrap max-lg:gap-x-3"
      >
        <Pick
          on={filter.kind === "all"}
          onPick={() => setFilter({ kind: "all" })}
          words="all"
          count={bank.length}
        />
        {folders.map((path) => (
          <Pick
            key={path}
            on={filter.kind === "folder" && filter.path === path}
            onPick={() => setFilter({ kind: "folder", path })}
            words={path.split("/").at(-1)!}
            depth={path.split("/").length - 1}
            count={bank.filter((c) => c.folder === path || c.folder.startsWith(`${path}/`)).length}
          />
        ))}
        {bank.some((c) => c.share !== "own") ? (
          <Pick
            on={filter.kind === "shared"}
            onPick={() => setFilter({ kind: "shared" })}
            words="shared"
            count={bank.filter((c) => c.share !== "own").length}
          />
        ) : null}
        {repeats.length > 0 ? (
          <Pick
            on={filter.kind === "repeats"}
            onPick={() => setFilter({ kind: "repeats" })}
            words="says the same twice"
            count={repeats.length}
          />
        ) : null}
        {tags.length > 0 ? <p className="label mt-3">tags</p> : null}
        {tags.map((tag) => (
          <Pick
            key={tag}
            on={filter.kind === "tag" && filter.tag === tag}
            onPick={() => setFilter({ kind: "tag", tag })}
            words={tag}
            count={bank.filter((c) => c.tags.includes(tag)).length}
          />
        ))}
      </nav>
      <div className="min-w-0">
        <div className="mb-4 flex flex-wrap items-end gap-3">
          <div className="w-72">
            <TextField
              label="Find a comment"
              value={search}
              onChange={(event) => setSearch(event.target.value)}
              placeholder="shorthand, or words in any order"
            />
          </div>
          <p className="text-sm text-soft" aria-live="polite">
            {shown.length} of {bank.length}
          </p>
          <span className="ml-auto flex flex-wrap items-center gap-2">
            <a href="/api/comments/out?as=csv" download="comments.csv" className="text-sm">
              take out as CSV
            </a>
            <a href="/api/comments/out?as=json" download="comments.json" className="text-sm">
              as JSON
            </a>
            <Button onClick={() => setBringing(true)}>Bring in</Button>
            <Button
              ink="tide"
              onClick={() =>
                setForm({ ...NEW_COMMENT, folder: filter.kind === "folder" ? filter.path : "" })
              }
            >
              New comment
            </Button>
          </span>
        </div>
        {problem ? (
          <Notice ink="ember" className="mb-3">
            {problem}
          </Notice>
        ) : null}
        {said ? (
          <Notice
            ink="moss"
            className="mb-3"
            acts={
              said.undo ? (
                <Button small onClick={() => void bringBack(said.undo!)}>
                  Bring it back
                </Button>
              ) : undefined
            }
          >
            {said.words}
          </Notice>
        ) : null}
        {shown.length === 0 ? (
          <Empty title={bank.length === 0 ? "The bank is empty" : "No comment fits"}>
            {bank.length === 0
              ? "Put in what you write most often; on the Desk ; and its shorthand bring it."
              : "Try fewer words, or another folder."}
          </Empty>
        ) : (
          <Rows
            comments={shown}
            onChange={(c) => setForm(formOf(c))}
            onRemove={(c) => void remove(c)}
            onCopy={(c) =>
              setForm({
                ...formOf(c),
                id: null,
                share: "own",
                courseId: null,
                shorthand: "",
                favourite: "",
              })
            }
            repeats={
              filter.kind === "repeats"
                ? new Map(repeats.map((r) => [r.comment.id, r.repeats.text]))
                : null
            }
          />
        )}
      </div>
      {form ? (
        <CommentDialog
          key={form.id ?? "new"}
          first={form}
          folders={folders}
          courses={courses}
          onKept={(n) => void kept(n)}
          onClose={() => setForm(null)}
        />
      ) : null}
      {bringing ? (
        <BringIn
          onClose={() => setBringing(false)}
          onBrought={(added) => {
            setBringing(false);
            void kept(0).then(() =>
              setSaid({
                words: `${added} ${added === 1 ? "comment" : "comments"} brought in.`,
                undo: null,
              }),
            );
          }}
        />
      ) : null}
    </div>
  );
}

/** A folder and those it lies in. @example pathsOf("Letters/Showing") // ["Letters", "Letters/Showing"] */
const pathsOf = (folder: string): string[] =>
  folder === "" ? [] : folder.split("/").map((_, n, parts) => parts.slice(0, n + 1).join("/"));

function fits(comment: CommentView, filter: Filter, repeated: readonly string[]): boolean {
  switch (filter.kind) {
    case "folder":
      return comment.folder === filter.path || comment.folder.startsWith(`${filter.path}/`);
    case "tag":
      return comment.tags.includes(filter.tag);
    case "shared":
      return comment.share !== "own";
    case "repeats":
      return repeated.includes(comment.id);
    default:
      return true;
  }
}

function Pick({
  on,
  onPick,
  words,
  count,
  depth = 0,
}: {
  on: boolean;
  onPick: () => void;
  words: string;
  count: number;
  depth?: number;
}) {
  return (
    <button
      type="button"
      aria-pressed={on}
      onClick={onPick}
      className={classes(
        "flex min-h-8 w-full cursor-pointer items-baseline gap-2 px-2 text-left hover:bg-sunk max-lg:w-auto",
        on && "bg-tide-wash font-semibold",
      )}
      style={{ paddingLeft: `${0.5 + depth}rem` }}
    >
      <span className="min-w-0 flex-1 truncate">{words}</span>
      <span className="text-soft">{count}</span>
    </button>
  );
}

type RowActs = {
  onChange: (c: CommentView) => void;
  onRemove: (c: CommentView) => void;
  onCopy: (c: CommentView) => void;
  repeats: ReadonlyMap<string, string> | null;
};

/** As many rows as are in view and a few more: two thousand comments scroll as two hundred do. */
function Rows({ comments, ...acts }: { comments: readonly CommentView[] } & RowActs) {
  const scroller = useRef<HTMLDivElement>(null);
  // The virtualizer keeps its own state, and nothing here is memoized on what it gives.
  // eslint-disable-next-line react-hooks/incompatible-library
  const rows = useVirtualizer({
    count: comments.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => 46,
    overscan: 12,
    getItemKey: (n) => comments[n]!.id,
  });
  return (
    <div
      ref={scroller}
      className="max-h-[68vh] overflow-auto border-t border-line-strong"
      tabIndex={0}
      role="region"
      aria-label="Comments"
    >
      <ul className="relative" style={{ height: rows.getTotalSize() }}>
        {rows.getVirtualItems().map((row) => (
          <li
            key={row.key}
            ref={rows.measureElement}
            data-index={row.index}
            className="absolute inset-x-0 top-0 border-b border-line py-1.5"
            style={{ transform: `translateY(${row.start}px)` }}
            aria-setsize={comments.length}
            aria-posinset={row.index + 1}
          >
            <Row comment={comments[row.index]!} {...acts} />
          </li>
        ))}
      </ul>
    </div>
  );
}

function Row({ comment, onChange, onRemove, onCopy, repeats }: { comment: CommentView } & RowActs) {
  const sign = STAMP_SIGNS[comment.kind]?.sign;
  return (
    <div className="grid grid-cols-[1.75rem_6.5rem_minmax(0,1fr)_auto] items-baseline gap-x-3 text-[0.9375rem] max-sm:grid-cols-[1.75rem_minmax(0,1fr)_auto]">
      <span>
        {comment.favourite ? (
          <kbd className="border border-line-strong bg-sunk px-1.5">{comment.favourite}</kbd>
        ) : null}
      </span>
      <span className="truncate whitespace-nowrap max-sm:hidden">
        {comment.shorthand ? `;${comment.shorthand}` : ""}
        {comment.clipId ? " ●" : ""}
      </span>
      <span className="min-w-0">
        {sign ? <span className="mr-1.5 text-moss">{sign}</span> : null}
        {comment.kind === "replace" || comment.kind === "insert" ? (
          <span className="mr-1.5 text-plum">‸{comment.replacement}</span>
        ) : null}
        {comment.text}
        <span className="ml-2 text-sm text-soft">
          {[
            comment.folder,
            comment.criterion && `for ${comment.criterion}`,
            comment.points && `${comment.points} pt`,
            ...comment.tags.map((t) => `#${t}`),
            sayShare(comment),
          ]
            .filter(Boolean)
            .join(" · ")}
        </span>
        {repeats?.get(comment.id) ? (
          <span className="block text-sm text-soft">
            says the same as: {repeats.get(comment.id)}
          </span>
        ) : null}
      </span>
      <span className="flex items-baseline gap-2 whitespace-nowrap">
        {comment.nature === "remark" ? null : (
          <span
            className={classes("label", comment.nature === "request" ? "text-ember" : "text-moss")}
          >
            {comment.nature === "request" ? "asks" : "praise"}
          </span>
        )}
        <span
          className="w-10 text-right text-sm text-soft"
          title={comment.lastUsed ? `last ${comment.lastUsed}` : undefined}
        >
          {comment.usedCount > 0 ? `${comment.usedCount} ×` : "–"}
        </span>
        {comment.mine ? (
          <>
            <Button
              small
              ink="quiet"
              onClick={() => onChange(comment)}
              aria-label={`Change: ${comment.text}`}
            >
              Change
            </Button>
            <Button
              small
              ink="quiet"
              onClick={() => onRemove(comment)}
              aria-label={`Take out: ${comment.text}`}
            >
              Take out
            </Button>
          </>
        ) : (
          <Button
            small
            ink="quiet"
            onClick={() => onCopy(comment)}
            aria-label={`Copy into my bank: ${comment.text}`}
          >
            Copy
          </Button>
        )}
      </span>
    </div>
  );
}

function sayShare({ share, mine, owner }: CommentView): string {
  if (share === "own") return "";
  return mine ? "shared" : `from ${owner}`;
}
