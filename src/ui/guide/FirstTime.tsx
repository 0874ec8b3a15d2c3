"use client";

import { usePathname } from "next/navigation";
import { useState } from "react";
import { contract } from "@/core/api/contract";
import { call } from "../client";
import { Button } from "../kit/Button";
import { Notice } from "../kit/Notice";
import { guideOf, screenOf } from "./guides";

/** Told of every screen: one who needs no more. */
const ALL = "*";

/** The next step, in place and once: for a teacher who is on this screen for the first time. */
export function FirstTime({ seen: before }: { seen: readonly string[] }) {
  const screen = screenOf(usePathname());
  const [seen, setSeen] = useState(before);
  const guide = guideOf("teacher", screen);
  if (!guide || seen.includes(screen) || seen.includes(ALL)) return null;
  function keep(next: readonly string[]) {
    setSeen(next);
    // Where it cannot be kept it is told once more another time.
    void call(contract.setSetting, { body: { name: "guides", value: next } }).catch(
      () => undefined,
    );
  }
  return (
    <div className="page-frame no-print pt-3">
      <Notice
        ink="tide"
        acts={
          <>
            <Button small onClick={() => keep([...seen, screen])}>
              I see
            </Button>
            <Button small ink="quiet" onClick={() => keep([ALL])}>
              No more of these
            </Button>
          </>
        }
      >
        <p>
          <strong className="font-normal">{guide.what}</strong> {guide.first}
        </p>
      </Notice>
    </div>
  );
}
