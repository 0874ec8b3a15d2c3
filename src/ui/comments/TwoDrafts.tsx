import { MineOrTheirs } from "../kit/MineOrTheirs";
import { Notice } from "../kit/Notice";

/** A note that two teachers changed at once: both stand until one is chosen. */
export function TwoDrafts({
  mine,
  theirs,
  onChoose,
}: {
  mine: string;
  theirs: string;
  onChoose: (choice: "mine" | "theirs") => void;
}) {
  return (
    <Notice ink="ember" className="mb-2" acts={<MineOrTheirs onChoose={onChoose} />}>
      <p>
        This note was changed elsewhere since you opened it. Nothing is lost; choose which to go on
        with.
      </p>
      <dl className="mt-1 grid grid-cols-[auto_1fr] gap-x-3 text-sm">
        <dt className="label">mine</dt>
        <dd>{mine || "(empty)"}</dd>
        <dt className="label">theirs</dt>
        <dd>{theirs || "(empty)"}</dd>
      </dl>
    </Notice>
  );
}
