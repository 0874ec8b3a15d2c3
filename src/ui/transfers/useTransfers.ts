"use client";

import { useCallback, useEffect, useRef, useState } from "react";
import type { Upload } from "tus-js-client";
import { contract } from "@/core/api/contract";
import { refusesSize } from "@/core/items/kinds";
import type { ItemView, Room } from "@/core/views/workViews";
import { call, Problem, Unreachable, sayProblem } from "../client";
import { keep, kept, keptUnder, release } from "../device";

/** A file on its way: on the device until the server has made it a part of the piece. */
export type Transfer = {
  id: string;
  partId: string;
  name: string;
  size: number;
  sent: number;
  /** Seconds, at the pace so far. */ left: number | null;
  state: "waiting" | "sending" | "looked into" | "no connection" | "refused";
  problem: string | null;
};
type Kept = {
  partId: string;
  name: string;
  blob: Blob;
  replaces: string | null;
  begun: boolean;
  /** It is on the device, so that what is no longer there was sent. */ stored?: boolean;
};

const CHUNK = 4_000_000;
const RETRY = 5000;
const prefixOf = (pieceId: string) => `file ${pieceId} `;

/**
 * Sends files in parts that can be cut at any byte and gone on with, also after the page was closed (the tus protocol). One
 * after the other, so that on a slow line the first is there soonest.
 */
export function useTransfers(
  pieceId: string,
  room: Room,
  onItem: (item: ItemView | null, replaced: string | null) => void,
) {
  const [list, setList] = useState<Transfer[]>([]);
  const waiting = useRef(new Map<string, Kept>());
  const current = useRef<{ id: string; upload: Upload | null } | null>(null);
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  const roomNow = useRef(room);
  const given = useRef(onItem);
  useEffect(() => {
    roomNow.current = room;
    given.current = onItem;
  });
  const patch = useCallback(
    (id: string, part: Partial<Transfer>) =>
      setList((old) => old.map((t) => (t.id === id ? { ...t, ...part } : t))),
    [],
  );
  const drop = useCallback(
    async (id: string) => {
      waiting.current.delete(id);
      await release(prefixOf(pieceId) + id);
    },
    [pieceId],
  );

  const pump = useCallback(
    async function pump(): Promise<void> {
      if (current.current) return;
      const next = [...waiting.current].find(([, file]) => file);
      if (!next) return;
      const [id, file] = next;
      current.current = { id, upload: null };
      let again = true;
      try {
        const mine = await alone(`almanac ${prefixOf(pieceId)}${id}`, async () => {
          // Another window of this piece may have sent it meanwhile.
          if (file.stored && !(await kept(prefixOf(pieceId) + id))) return false;
          await sendBytes(pieceId, id, file, {
            onUpload: (upload) => (current.current = { id, upload }),
            onProgress: (sent, left) => patch(id, { state: "sending", sent, left, problem: null }),
            onBegun: () => {
              file.begun = true;
              void keep(prefixOf(pieceId) + id, file, 0);
            },
          });
          return true;
        });
        let item: ItemView | null = null;
        if (mine) {
          patch(id, { state: "looked into", sent: file.blob.size, left: null });
          item = await call(contract.addItem, {
            params: { pieceId },
            body: { itemId: id, transferId: id, partId: file.partId, replaces: file.replaces },
          });
          await drop(id);
        } else waiting.current.delete(id);
        setList((old) => old.filter((t) => t.id !== id));
        given.current(item, file.replaces);
      } catch (error) {
        const words = wordsOf(error);
        if (words === null) {
          patch(id, { state: "no connection", left: null });
          again = false;
          clearTimeout(timer.current);
          timer.current = setTimeout(() => void pump(), RETRY);
        } else {
          // Where the work cannot be changed just now the file stays on the device: it may be opened again.
          const wrongFile = !(error instanceof Problem) || error.status === 422;
          if (wrongFile) await drop(id);
          else waiting.current.delete(id);
          patch(id, {
            state: "refused",
            problem: wrongFile ? words : `${words} The file is kept on this device.`,
            left: null,
          });
        }
      } finally {
        current.current = null;
      }
      if (again) void pump();
    },
    [drop, patch, pieceId],
  );

  // Files that an earlier page had not sent are gone on with.
  useEffect(() => {
    void keptUnder<Kept>(prefixOf(pieceId)).then((left) => {
      for (const { key, value } of left) {
        const id = key.slice(prefixOf(pieceId).length);
        if (waiting.current.has(id)) continue;
        waiting.current.set(id, { ...value, stored: true });
        setList((old) => [
          ...old,
          {
            id,
            partId: value.partId,
            name: value.name,
            size: value.blob.size,
            sent: 0,
            left: null,
            state: "waiting",
            problem: null,
          },
        ]);
      }
      void pump();
    });
    const online = () => void pump();
    window.addEventListener("online", online);
    return () => {
      window.removeEventListener("online", online);
      clearTimeout(timer.current);
    };
  }, [pieceId, pump]);

  /**
   * Puts a file on its way. What cannot be taken is said before anything is sent.
   *
   * @returns the id it has on its way, and has as an item of the piece when it is there
   */
  const add = useCallback(
    async (
      partId: string,
      blob: Blob,
      name: string,
      replaces: string | null = null,
    ): Promise<string> => {
      const id = crypto.randomUUID();
      const { limits, used } = roomNow.current;
      const underWay = [...waiting.current.values()].reduce((sum, f) => sum + f.blob.size, 0);
      const refused = refusesSize(
        limits,
        { piece: used.piece + underWay, student: used.student + underWay },
        blob.size,
      );
      const line: Transfer = {
        id,
        partId,
        name,
        size: blob.size,
        sent: 0,
        left: null,
        state: refused ? "refused" : "waiting",
        problem: refused,
      };
      setList((old) => [...old, line]);
      if (refused) return id;
      const file: Kept = { partId, name, blob, replaces, begun: false };
      waiting.current.set(id, file);
      const safe = await keep(prefixOf(pieceId) + id, file, 0);
      file.stored = safe;
      if (!safe)
        patch(id, {
          problem: "This device has no room to keep it: leave the page open until it is sent.",
        });
      void pump();
      return id;
    },
    [patch, pieceId, pump],
  );

  /** Stops a file on its way, or takes the line about a refused one off. */
  const stop = useCallback(
    async (id: string) => {
      setList((old) => old.filter((t) => t.id !== id));
      const upload = current.current?.id === id ? current.current.upload : null;
      await drop(id);
      await upload?.abort(true).catch(() => {});
      if (current.current?.id === id) current.current = null;
      void pump();
    },
    [drop, pump],
  );

  return { list, add, stop, busy: list.some((t) => t.state !== "refused"), retry: pump };
}

/** One window at a time, where the browser can see to that. */
async function alone<T>(name: string, work: () => Promise<T>): Promise<T> {
  return "locks" in navigator ? ((await navigator.locks.request(name, work)) as T) : work();
}

/** A sentence when the server said no; null when there is no connection and it is to be tried again. */
function wordsOf(error: unknown): string | null {
  if (error instanceof Unreachable) return null;
  if (error instanceof Problem) return error.status >= 500 ? null : sayProblem(error);
  const answer = (error as { originalResponse?: { getStatus(): number; getBody(): string } | null })
    .originalResponse;
  if (!answer || answer.getStatus() >= 500 || answer.getStatus() === 0) return null;
  try {
    const { title, detail } = JSON.parse(answer.getBody()) as { title?: string; detail?: string };
    return [title, detail].filter(Boolean).join(" ") || "This file could not be sent.";
  } catch {
    return "This file could not be sent. Choose it again.";
  }
}

type Hooks = {
  onUpload: (upload: Upload) => void;
  onProgress: (sent: number, left: number | null) => void;
  onBegun: () => void;
};

async function sendBytes(
  pieceId: string,
  id: string,
  file: Kept,
  { onUpload, onProgress, onBegun }: Hooks,
): Promise<void> {
  const { Upload: TusUpload } = await import("tus-js-client").catch(() => {
    // The part of the program that sends is not on this device yet, and there is no connection to fetch it.
    throw new Unreachable();
  });
  const started = Date.now();
  let first: number | null = null;
  return new Promise((resolve, reject) => {
    const upload = new TusUpload(file.blob, {
      endpoint: "/api/transfers",
      uploadUrl: file.begun ? `/api/transfers/${id}` : null,
      chunkSize: CHUNK,
      retryDelays: [0, 1000, 3000],
      storeFingerprintForResuming: false,
      metadata: { id, pieceId, partId: file.partId, name: file.name },
      onAfterResponse: (_request, response) => {
        if (!file.begun && response.getStatus() === 201) onBegun();
      },
      onProgress: (sent, total) => {
        first ??= sent;
        const pace = (sent - first) / Math.max(1, Date.now() - started);
        onProgress(sent, pace > 0 && sent < total ? (total - sent) / pace / 1000 : null);
      },
      onError: reject,
      onSuccess: () => resolve(),
    });
    onUpload(upload);
    upload.start();
  });
}
