import { sayPart } from "@/core/handouts/parts";
import { canonicalJson } from "@/core/text/canonical";
import { compareTexts } from "@/core/text/compare";
import { plainText } from "@/core/text/plainText";
import type { PartView } from "@/core/views/workViews";
import { Button } from "../kit/Button";
import { Notice } from "../kit/Notice";
import { Compared } from "../text/Compared";
import type { OtherCopy, Work } from "./useSaving";

/** Two devices or windows changed one piece: both are shown with what tells them apart, and one is chosen. */
export function TwoCopies({
  mine,
  theirs,
  parts,
  onChoose,
}: {
  mine: Work;
  theirs: OtherCopy;
  parts: readonly PartView[];
  onChoose: (choice: "mine" | "theirs") => void;
}) {
  const differs = parts.flatMap((p) =>
    (p.questions?.asked ?? []).flatMap((q, n) => {
      const [a, b] = [mine.answers[p.id]?.[q.id], theirs.answers?.[p.id]?.[q.id]];
      return canonicalJson(a ?? null) === canonicalJson(b ?? null)
        ? []
        : [`${sayPart(p)}, question ${n + 1}`];
    }),
  );
  return (
    <Notice
      ink="ember"
      className="mb-5"
      acts={
        <>
          <Button small className="max-sm:min-h-11" onClick={() => onChoose("mine")}>
            Go on with this one
          </Button>
          <Button small className="max-sm:min-h-11" onClick={() => onChoose("theirs")}>
            Take the other
          </Button>
        </>
      }
    >
      <p>
        This piece was also changed in another window or on another device
        {theirs.saved ? ` (saved ${theirs.saved})` : ""}. Nothing is lost. Below is what this copy
        has more (marked) and what only the other has (struck through).
      </p>
      <div className="mt-3 max-h-72 overflow-auto border border-line bg-paper p-3">
        <Compared
          comparison={compareTexts(plainText(theirs.doc).text, plainText(mine.doc).text)}
          doc={mine.doc}
        />
      </div>
      {differs.length > 0 ? (
        <p className="mt-2">Answered otherwise: {differs.join("; ")}.</p>
      ) : null}
    </Notice>
  );
}
