"use client";

import { useEffect, useRef, useState } from "react";
import { contract } from "@/core/api/contract";
import type { ClipView } from "@/core/views/voiceViews";
import { call } from "../client";
import { Button } from "../kit/Button";
import { leftRecordings } from "./recorder/chunks";
import { Recorder } from "./recorder/Recorder";
import { useClips } from "./clips";
import { VoiceNote } from "./VoiceNote";

type Props = {
  /** The piece it is about; null: the teacher's own, for the bank or a task. */
  pieceId: string | null;
  /** Where on the device it is kept until it is sent. */
  place: string;
  clipId: string | null;
  onClip: (clip: ClipView | null) => void;
  /** The recorder is open, and begins at once. */
  auto?: boolean;
  words?: string;
};

/** A voice beside a field: recorded, heard, kept, taken out again. What a killed tab left here is offered again. */
export function Speak({ pieceId, place, clipId, onClip, auto = false, words = "Speak" }: Props) {
  const { put, mostSeconds } = useClips();
  const [open, setOpen] = useState(auto);
  // The same recording sent twice, after an answer that was lost, makes one clip.
  const key = useRef<{ id: string; key: string } | null>(null);
  useEffect(() => {
    void leftRecordings(place).then((left) => left.length > 0 && setOpen(true));
  }, [place]);

  if (clipId) {
    return (
      <div>
        <VoiceNote clipId={clipId} />
        <Button small ink="quiet" className="-ml-2" onClick={() => onClip(null)}>
          Take the voice out
        </Button>
      </div>
    );
  }
  if (!open) {
    return (
      <Button small className="max-sm:min-h-11" onClick={() => setOpen(true)}>
        <span aria-hidden="true">●</span> {words}
      </Button>
    );
  }
  return (
    <Recorder
      kind="sound"
      small
      auto={auto || open}
      place={place}
      mostSeconds={mostSeconds}
      onKeep={async ({ id, blob }) => {
        if (key.current?.id !== id) key.current = { id, key: crypto.randomUUID() };
        const given = { file: blob, fileName: "voice", key: key.current.key };
        const clip = pieceId
          ? await call(contract.addPieceClip, { params: { pieceId }, ...given })
          : await call(contract.addClip, given);
        put(clip);
        setOpen(false);
        onClip(clip);
      }}
    />
  );
}
