"use client";

import { useState } from "react";
import type { PartView } from "@/core/views/workViews";
import { Recorder } from "../../voice/recorder/Recorder";
import { FilesPart } from "./FilesPart";
import { nameRecording } from "./nameRecording";
import type { Items } from "./useItems";

/** Sound or film: recorded here, or chosen as a file. */
export function RecordingPart({
  part,
  items,
  pieceId,
}: {
  part: PartView;
  items: Items;
  pieceId: string;
}) {
  const kind = part.kind === "film" ? "film" : "sound";
  const own = items.of(part.id);
  const [again, setAgain] = useState(false);
  const most = (part.minutes ?? items.room.limits.recordingMinutes) * 60;
  const there =
    own.length > 0 ||
    items.transfers.list.some((t) => t.partId === part.id && t.state !== "refused");
  return (
    <div className="grid gap-3">
      {there && !again ? (
        <p>
          <button
            type="button"
            className="cursor-pointer text-tide underline max-sm:min-h-11"
            onClick={() => setAgain(true)}
          >
            Record another
          </button>
        </p>
      ) : (
        <Recorder
          kind={kind}
          place={`${pieceId}/${part.id}`}
          mostSeconds={most}
          onKeep={async ({ blob }) => {
            await items.transfers.add(part.id, blob, nameRecording(kind, blob.type, part.label));
            setAgain(false);
          }}
        />
      )}
      <FilesPart
        part={part}
        items={items}
        accept={kind === "film" ? "video/*" : "audio/*,video/webm"}
      />
    </div>
  );
}
