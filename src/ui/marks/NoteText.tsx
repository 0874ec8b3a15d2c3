import { Fragment, type ReactNode } from "react";
import { compareTexts, type Change } from "@/core/text/compare";
import { readNote, type NoteInline } from "@/core/text/noteText";

/**
 * What a note says, with its light Markdown. A quotation in a note that corrects the student's sentence is
 * drawn with the proof-reader's signs: what goes struck out, what comes in set under a line.
 */
export function NoteText({ text, sentence = "" }: { text: string; sentence?: string }) {
  return (
    <div className="note-text">
      {readNote(text).map((block, n) => {
        switch (block.kind) {
          case "quote":
            return (
              <blockquote key={n} className="my-1 border-l-2 border-plum pl-2 font-serif">
                {sentence ? <Corrected before={sentence} after={block.text} /> : block.text}
              </blockquote>
            );
          case "list": {
            const List = block.ordered ? "ol" : "ul";
            return (
              <List key={n} className={block.ordered ? "list-decimal pl-5" : "list-disc pl-5"}>
                {block.items.map((item, k) => (
                  <li key={k}>{inline(item)}</li>
                ))}
              </List>
            );
          }
          default:
            return <p key={n}>{inline(block.of)}</p>;
        }
      })}
    </div>
  );
}

function inline(of: readonly NoteInline[]): ReactNode {
  return of.map((node, n) => {
    switch (node.kind) {
      case "text":
        return <Fragment key={n}>{node.text}</Fragment>;
      case "break":
        return <br key={n} />;
      case "bold":
        return <strong key={n}>{inline(node.of)}</strong>;
      case "italic":
        return <em key={n}>{inline(node.of)}</em>;
      case "link":
        return (
          <a key={n} href={node.href} rel="noopener noreferrer nofollow" target="_blank">
            {inline(node.of)}
          </a>
        );
    }
  });
}

function Corrected({ before, after }: { before: string; after: string }) {
  const changes = compareTexts(before, after.replace(/\n/g, " ")).lines.flatMap((line) =>
    line.kind === "deleted"
      ? [{ kind: "deleted" as const, text: line.changes.map((c) => c.text).join("") }]
      : line.changes,
  );
  return (
    <>
      {changes.map((change, n) => (
        <Changed key={n} change={change} />
      ))}
    </>
  );
}

function Changed({ change }: { change: Change }) {
  if (change.kind === "inserted") return <ins className="corrected">{change.text}</ins>;
  return change.kind === "deleted" ? <del>{change.text}</del> : change.text;
}
