"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import type { UploadView } from "@/core/views/handOutViews";
import { call, sayProblem } from "../client";
import { scalePicture } from "../transfers/scalePicture";

const MOST = 25_000_000;

type SendOne = (file: File) => Promise<UploadView>;

/** A teacher's own file. */
const asTeacher: SendOne = (file) => call(contract.addUpload, { file, fileName: file.name });

/** A picture for a student's own writing, made no larger than 2,400 px before it goes. */
export const forWriting =
  (pieceId: string): SendOne =>
  async (file) => {
    const { blob, name } = await scalePicture(file);
    return call(contract.addPicture, { params: { pieceId }, file: blob, fileName: name });
  };

/** A file that is to go with a message of a piece's thread; a picture no larger than it need be. */
export const forThread =
  (pieceId: string): SendOne =>
  async (file) => {
    const { blob, name } = await scalePicture(file);
    return call(contract.addMessageFile, { params: { pieceId }, file: blob, fileName: name });
  };

/**
 * Sends files one after the other; what cannot be sent is said, and the others go on.
 *
 * @param one how each is sent; a teacher's own file unless said otherwise
 */
export function useUpload(one: SendOne = asTeacher) {
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  async function send(files: readonly File[]): Promise<UploadView[]> {
    setBusy(true);
    setProblem(null);
    const done: UploadView[] = [];
    for (const file of files) {
      try {
        if (file.size > MOST)
          throw new Error(
            `${file.name} has ${Math.round(file.size / 1_000_000)} MB; 25 MB is the most.`,
          );
        done.push(await one(file));
      } catch (error) {
        setProblem(
          error instanceof Error && error.message.startsWith(file.name)
            ? error.message
            : `${file.name}: ${sayProblem(error)}`,
        );
      }
    }
    setBusy(false);
    return done;
  }
  return { send, busy, problem };
}
