"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import type { UploadView } from "@/core/views/handOutViews";
import { call, sayProblem } from "../client";

const MOST = 25_000_000;

/** Sends files one after the other; what cannot be sent is said, and the others go on. */
export function useUpload() {
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  async function send(files: readonly File[]): Promise<UploadView[]> {
    setBusy(true);
    setProblem(null);
    const done: UploadView[] = [];
    for (const file of files) {
      try {
        if (file.size > MOST) throw new Error(`${file.name} has ${Math.round(file.size / 1_000_000)} MB; 25 MB is the most.`);
        done.push(await call(contract.addUpload, { file, fileName: file.name }));
      } catch (error) {
        setProblem(error instanceof Error && error.message.startsWith(file.name) ? error.message : `${file.name}: ${sayProblem(error)}`);
      }
    }
    setBusy(false);
    return done;
  }
  return { send, busy, problem };
}
