import { Hear } from "./Hear";
import { VoiceNote } from "./VoiceNote";

/** What someone wrote or said in a conversation: words that can be heard, and a voice. */
export function SaidWords({ body, clipId }: { body: string; clipId: string | null }) {
  return (
    <>
      {body ? (
        <p className="whitespace-pre-wrap">
          {body} <Hear text={body} />
        </p>
      ) : null}
      <VoiceNote clipId={clipId} />
    </>
  );
}
