"use client";

import dynamic from "next/dynamic";
import { useState } from "react";
import type { Theme } from "@/core/views/theme";

const ME = "min-h-9 cursor-pointer border-l border-line pl-4 text-ink hover:underline";

const load = () => import("./MeMenu");
const MeMenu = dynamic(load, { ssr: false, loading: () => null });

/** Who I am; the menu comes with the first press, so that the first page of a phone is light. */
export function Me(props: {
  name: string;
  school: string;
  theme: Theme;
  /** Has due dates to be fetched as a calendar. */ feed: boolean;
  /** Can check the receipts of students. */ receipts: boolean;
  /** Keeps the school, besides teaching in it. */ office: boolean;
}) {
  const [opened, setOpened] = useState(false);
  if (opened) return <MeMenu {...props} className={ME} />;
  return (
    <button
      type="button"
      aria-haspopup="menu"
      aria-expanded={false}
      className={ME}
      onPointerEnter={() => void load()}
      onFocus={() => void load()}
      onClick={() => setOpened(true)}
    >
      {props.name}
    </button>
  );
}
