"use client";

import { useRef, useState } from "react";
import { pairItems, type ItemPair } from "@/core/items/pairs";
import type { AnswerSheet, ItemView } from "@/core/views/workViews";
import { ItemShown } from "../../items/ItemShown";
import { Dialog } from "../../kit/Dialog";
import { CheckField } from "../../kit/Field";
import { AnswersSince } from "./AnswersSince";
import { Overlay } from "./Overlay";
import { PagesSince } from "./PagesSince";
import { useTogether } from "./useTogether";

/** What was handed in besides the writing. */
type HandedIn = { items: readonly ItemView[]; sheets: readonly AnswerSheet[] };
type Props = {
  before: HandedIn;
  after: HandedIn;
  /** What the earlier one is called, such as "round 1". */ earlier: string;
  onClose: () => void;
};

/**
 * The files of an earlier hand-in beside those of the one on the Desk: two pictures or pages over one another with a slider and their
 * difference, two recordings that go together, everything else side by side; answers question by question.
 */
export function ComparedFiles({ before, after, earlier, onClose }: Props) {
  const pairs = pairItems(before.items, after.items);
  return (
    <Dialog
      open
      wide
      onClose={onClose}
      title={`${earlier[0]!.toUpperCase()}${earlier.slice(1)} and now`}
    >
      {pairs.map((pair) => (
        <section key={pair.after?.id ?? pair.before?.id} className="mb-6">
          <Pair pair={pair} earlier={earlier} />
        </section>
      ))}
      <AnswersSince before={before.sheets} after={after.sheets} earlier={earlier} />
    </Dialog>
  );
}

function Pair({ pair, earlier }: { pair: ItemPair<ItemView>; earlier: string }) {
  const { before, after, same } = pair;
  if (!before || !after)
    return (
      <>
        <p className="label">{before ? `only in ${earlier}` : "new"}</p>
        <ItemShown item={(after ?? before)!} />
      </>
    );
  if (same)
    return (
      <p className="text-soft">
        {after.name}: the very same file as in {earlier}.
      </p>
    );
  return <Changed {...{ before, after, earlier }} />;
}

/** Two that take each other's place, by what both are shown as. */
function Changed({ before, after, earlier }: Two) {
  const as = before.view?.as === after.view?.as ? after.view?.as : null;
  if (as === "picture") return <Pictures {...{ before, after, earlier }} />;
  if (as === "pages") return <PagesSince {...{ before, after, earlier }} />;
  if (as === "sound" || as === "film") return <Recordings {...{ before, after, earlier }} />;
  return <Beside {...{ before, after, earlier }} />;
}

type Two = { before: ItemView; after: ItemView; earlier: string };

function Pictures({ before, after, earlier }: Two) {
  const picture = ({ view }: ItemView, alt: string) => (
    // eslint-disable-next-line @next/next/no-img-element
    <img src={view!.href} alt={alt} className="h-full w-full object-contain" />
  );
  return (
    <Overlay
      ratio={after.width && after.height ? after.height / after.width : 0.75}
      earlier={earlier}
      before={picture(before, `${before.name}, ${earlier}`)}
      after={picture(after, `${after.name}, now`)}
    />
  );
}

function Recordings({ before, after, earlier }: Two) {
  const root = useRef<HTMLDivElement>(null);
  const [together, setTogether] = useState(true);
  useTogether(root, together);
  return (
    <div ref={root}>
      <Beside {...{ before, after, earlier }} />
      <CheckField
        label="Both play, stop and move together"
        checked={together}
        onChange={(event) => setTogether(event.target.checked)}
      />
    </div>
  );
}

function Beside({ before, after, earlier }: Two) {
  return (
    <div className="grid gap-4 sm:grid-cols-2">
      <div className="min-w-0">
        <p className="label">{earlier}</p>
        <ItemShown item={before} />
      </div>
      <div className="min-w-0">
        <p className="label">now</p>
        <ItemShown item={after} />
      </div>
    </div>
  );
}
