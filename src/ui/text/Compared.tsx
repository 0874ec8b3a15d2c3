import type { Comparison } from "@/core/text/compare";

const WORDS = {
  same: "",
  changed: "",
  inserted: "new",
  deleted: "taken out",
  moved: "moved here",
} as const;

/** What changed between two versions: insertions and deletions in the text, moved lines named as such. */
export function Compared({ comparison }: { comparison: Comparison }) {
  return (
    <div className="writing">
      {comparison.lines.map((line, n) => (
        <p
          key={n}
          className={
            line.kind === "moved" ? "border-l-2 border-dashed border-tide pl-3" : undefined
          }
        >
          {WORDS[line.kind] ? (
            <span className="label mr-2 font-sans">{WORDS[line.kind]}</span>
          ) : null}
          {line.changes.map((change, k) => {
            if (change.kind === "inserted") return <ins key={k}>{change.text}</ins>;
            if (change.kind === "deleted") return <del key={k}>{change.text}</del>;
            return <span key={k}>{change.text}</span>;
          })}
        </p>
      ))}
    </div>
  );
}

export function sayComparison({ wordsInserted, wordsDeleted, lines, coarse }: Comparison): string {
  const moved = lines.filter((line) => line.kind === "moved").length;
  const parts = [
    `${wordsInserted} ${wordsInserted === 1 ? "word" : "words"} in`,
    `${wordsDeleted} out`,
    moved ? `${moved} ${moved === 1 ? "paragraph" : "paragraphs"} moved` : "",
    coarse ? "compared by paragraphs where too much has changed to compare words" : "",
  ];
  return parts.filter(Boolean).join(", ");
}
