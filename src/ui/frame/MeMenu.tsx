"use client";

import { useRouter } from "next/navigation";
import { DropdownMenu } from "radix-ui";
import { contract } from "@/core/api/contract";
import { THEMES, type Theme } from "@/core/views/theme";
import { call } from "../client";
import { releaseAll } from "../device";

const THEME_WORDS: Readonly<Record<Theme, string>> = {
  system: "Day or night as this device",
  day: "Day theme",
  night: "Night theme",
};
const ITEM = "cursor-pointer px-4 py-2 outline-none data-highlighted:bg-sunk";

/** The menu behind my name: the theme, and the ways out. Loaded when it is first opened. */
export default function MeMenu({
  name,
  school,
  theme,
  feed,
  receipts,
  office,
  className,
}: {
  name: string;
  school: string;
  theme: Theme;
  feed: boolean;
  receipts: boolean;
  office: boolean;
  className: string;
}) {
  const router = useRouter();
  async function leave(everywhere: boolean) {
    const { to } = await call(contract.signOut, { body: { everywhere } });
    await releaseAll();
    window.location.assign(to);
  }
  function choose(next: string) {
    document.cookie = `almanac_theme=${next}; path=/; max-age=31536000; samesite=lax`;
    router.refresh();
  }
  return (
    <DropdownMenu.Root modal={false} defaultOpen>
      <DropdownMenu.Trigger className={className}>{name}</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={6}
          className="z-50 min-w-56 border border-line-strong bg-raised py-1 shadow-lifted"
        >
          <DropdownMenu.Label className="label px-4 py-1">{school}</DropdownMenu.Label>
          {feed ? (
            <DropdownMenu.Item className={ITEM} onSelect={() => router.push("/feed")}>
              My calendar address
            </DropdownMenu.Item>
          ) : null}
          {receipts ? (
            <DropdownMenu.Item className={ITEM} onSelect={() => router.push("/letters")}>
              Letters
            </DropdownMenu.Item>
          ) : null}
          {receipts ? (
            <DropdownMenu.Item className={ITEM} onSelect={() => router.push("/receipts")}>
              Check a receipt
            </DropdownMenu.Item>
          ) : null}
          {office ? (
            <DropdownMenu.Item className={ITEM} onSelect={() => router.push("/office")}>
              The school: people, terms, days
            </DropdownMenu.Item>
          ) : null}
          <DropdownMenu.Item className={ITEM} onSelect={() => router.push("/account")}>
            Password and devices
          </DropdownMenu.Item>
          <DropdownMenu.Separator className="my-1 border-t border-line" />
          <DropdownMenu.RadioGroup value={theme} onValueChange={choose} aria-label="Theme">
            {THEMES.map((one) => (
              <DropdownMenu.RadioItem key={one} value={one} className={ITEM}>
                <span aria-hidden="true" className="inline-block w-5">
                  {one === theme ? "✓" : ""}
                </span>
                {THEME_WORDS[one]}
              </DropdownMenu.RadioItem>
            ))}
          </DropdownMenu.RadioGroup>
          <DropdownMenu.Separator className="my-1 border-t border-line" />
          <DropdownMenu.Item className={ITEM} onSelect={() => void leave(false)}>
            Sign out
          </DropdownMenu.Item>
          <DropdownMenu.Item className={ITEM} onSelect={() => void leave(true)}>
            Sign out everywhere
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
