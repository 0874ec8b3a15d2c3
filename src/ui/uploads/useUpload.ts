"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import type { UploadView } from "@/core/views/handOutViews";
import { call, sayProblem } from "../client";
import { scalePicture } from "../transfers/scalePicture";

const MOST = 25_000_000;

/**
 * Sends files one after the other; what cannot be sent is said, and the others go on.
 *
 * @param pieceId pictures for a student's own writing, made no larger than 2,400 px before they go; otherwise a teacher's file
 */
export function useUpload(pieceId?: string) {
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  async function one(file: File): Promise<UploadView> {
    if (!pieceId) return call(contract.addUpload, { file, fileName: file.name });
    const { blob, name } = await scalePicture(file);
    return call(contract.addPicture, { params: { pieceId }, file: blob, fileName: name });
  }
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
