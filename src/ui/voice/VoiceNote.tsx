"use client";

import { useEffect, useState } from "react";
import { contract } from "@/core/api/contract";
import { DOUBTFUL, sayWords, wordAt } from "@/core/speech/heard";
import type { ClipView, Shows } from "@/core/views/voiceViews";
import { call, Problem, sayProblem } from "../client";
import { Button } from "../kit/Button";
import { classes } from "../kit/classes";
import { TextArea, TextField } from "../kit/Field";
import { FileButton } from "../kit/FileButton";
import { useClips } from "./clips";
import { VoicePlayer } from "./VoicePlayer";

/** A voice where it stands: its player, and beside it what it says, a title, or nothing. */
export function VoiceNote({
  clipId,
  small = true,
}: {
  clipId: string | null | undefined;
  small?: boolean;
}) {
  return clipId ? <Spoken clipId={clipId} small={small} /> : null;
}

function Spoken({ clipId, small }: { clipId: string; small: boolean }) {
  const { of, put } = useClips();
  const clip = of(clipId);
  // One that came with a comment of the bank is new to this page.
  const unknown = clip === null;
  useEffect(() => {
    if (unknown) void call(contract.clip, { params: { clipId } }).then(put, () => undefined);
  }, [unknown, clipId, put]);
  const [at, setAt] = useState(-1);
  const [changing, setChanging] = useState(false);
  if (!clip) return null;
  const spoken = at < 0 ? -1 : wordAt(clip.transcript.words, at);
  return (
    <div className="my-1" onClick={(event) => event.stopPropagation()}>
      {clip.shows === "title" ? <p className="font-semibold">{clip.title}</p> : null}
      <VoicePlayer
        clip={clip}
        label={clip.mine ? "my voice" : `voice of ${clip.by}`}
        onTime={setAt}
        small={small}
      />
      {changing ? (
        <ChangeWords clip={clip} onDone={() => setChanging(false)} />
      ) : (
        <Beside
          clip={clip}
          spoken={spoken}
          onChange={clip.mayChange ? () => setChanging(true) : null}
        />
      )}
    </div>
  );
}

function Beside({
  clip,
  spoken,
  onChange,
}: {
  clip: ClipView;
  spoken: number;
  onChange: (() => void) | null;
}) {
  const { transcript } = clip;
  const change = onChange ? (
    <button
      type="button"
      className="min-h-7 cursor-pointer underline underline-offset-4 max-sm:min-h-11"
      onClick={onChange}
    >
      {transcript.words.length > 0 && clip.shows === "words"
        ? "Correct the words"
        : "Words or a title"}
    </button>
  ) : null;
  return (
    <div className="text-sm">
      {clip.shows === "words" && transcript.words.length > 0 ? (
        <p className="voice-words">
          {transcript.words.map((w, n) => (
            <span key={n}>
              <span
                className={classes(n === spoken && "bg-tide-wash", w.sure < DOUBTFUL && "doubtful")}
                title={w.sure < DOUBTFUL ? "The program is not sure of this word" : undefined}
              >
                {w.word}
              </span>{" "}
            </span>
          ))}
        </p>
      ) : null}
      <p className="flex flex-wrap items-center gap-x-3 text-soft">
        {clip.state === "being made" ? (
          <span>It is being made as loud as the others; it can be heard already.</span>
        ) : null}
        {clip.shows === "words" ? <AboutWords transcript={transcript} /> : null}
        {!clip.heard ? <span className="font-semibold text-ink">not heard yet</span> : null}
        {clip.heardByStudent ? <span>heard {clip.heardByStudent}</span> : null}
        {change}
      </p>
    </div>
  );
}

/** The words corrected, a short title in their place, or nothing; WebVTT out and in. */
function ChangeWords({ clip, onDone }: { clip: ClipView; onDone: () => void }) {
  const { put } = useClips();
  const [shows, setShows] = useState<Shows>(clip.shows);
  const [title, setTitle] = useState(clip.title);
  const [text, setText] = useState(sayWords(clip.transcript.words));
  const [problem, setProblem] = useState<string | null>(null);
  const [revision, setRevision] = useState(clip.revision);

  async function attempt(work: () => Promise<ClipView>) {
    try {
      put(await work());
      onDone();
    } catch (error) {
      setProblem(sayProblem(error));
      // What the other has written is there; keeping again puts mine in its place.
      if (error instanceof Problem && error.status === 412 && error.theirs) {
        put(error.theirs as ClipView);
        setRevision((error.theirs as ClipView).revision);
      }
    }
  }
  const keep = () =>
    void attempt(() =>
      call(contract.changeClipWords, {
        params: { clipId: clip.id },
        body: { shows, title, text: shows === "words" && text.trim() !== "" ? text : null },
        revision,
      }),
    );

  return (
    <form
      className="mt-1 border border-line-strong bg-raised p-2"
      aria-label="What stands beside the voice"
      onSubmit={(event) => {
        event.preventDefault();
        keep();
      }}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === "Escape") onDone();
      }}
    >
      <fieldset className="flex flex-wrap gap-x-3">
        <legend className="sr-only">What is shown</legend>
        {(
          [
            ["words", "its words"],
            ["title", "a short title"],
            ["nothing", "the voice alone"],
          ] as const
        ).map(([value, words]) => (
          <label key={value} className="flex items-center gap-1 max-sm:min-h-11">
            <input
              type="radio"
              className="size-4 accent-tide"
              checked={shows === value}
              onChange={() => setShows(value)}
            />
            {words}
          </label>
        ))}
      </fieldset>
      {shows === "words" ? (
        <TextArea
          label="What is said"
          rows={4}
          value={text}
          onChange={(event) => setText(event.target.value)}
          autoFocus
        />
      ) : null}
      {shows === "title" ? (
        <TextField
          label="Title"
          value={title}
          maxLength={120}
          placeholder="next step"
          onChange={(event) => setTitle(event.target.value)}
          autoFocus
        />
      ) : null}
      {problem ? (
        <p role="alert" className="mt-1 text-ember">
          ▲ {problem}
        </p>
      ) : null}
      <div className="mt-2 flex flex-wrap items-center gap-2">
        <Button small type="submit" ink="tide">
          Keep
        </Button>
        <Button small ink="quiet" onClick={onDone}>
          Leave it
        </Button>
        {clip.transcript.words.length > 0 ? (
          <a
            className="ml-auto underline underline-offset-4"
            href={`/api/clips/${clip.id}/words`}
            download="words.vtt"
          >
            Take out as WebVTT
          </a>
        ) : null}
        <FileButton
          accept=".vtt,text/vtt"
          small
          onFile={(file) =>
            void file
              .text()
              .then((vtt) =>
                attempt(() =>
                  call(contract.bringClipWords, { params: { clipId: clip.id }, body: { vtt } }),
                ),
              )
          }
        >
          Bring WebVTT in
        </FileButton>
      </div>
    </form>
  );
}

function AboutWords({ transcript }: Pick<ClipView, "transcript">) {
  const { state, part, why, by } = transcript;
  if (state === "being made")
    return (
      <span>
        Its words are being written down
        {part > 0 ? `: ${Math.round(part * 100)} %` : " …"}
      </span>
    );
  if (state === "none") return <span>{why}</span>;
  return by === null ? <span>Words made by the program; they can be wrong.</span> : null;
}
