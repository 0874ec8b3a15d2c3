import type { Metadata, Viewport } from "next";
import { cookies } from "next/headers";
import type { ReactNode } from "react";
import { themeOf } from "@/core/views/theme";
import { LateFonts } from "@/ui/frame/LateFonts";
import { PressKept } from "@/ui/frame/PressKept";
import "./globals.css";

export const metadata: Metadata = {
  title: { default: "Almanac", template: "%s · Almanac" },
  description: "Work handed out, handed in, answered and handed back until it is right.",
  icons: { icon: "/icon.svg", apple: "/icon-192.png" },
};
export const viewport: Viewport = { width: "device-width", initialScale: 1 };

export default async function RootLayout({ children }: { children: ReactNode }) {
  const theme = themeOf((await cookies()).get("almanac_theme")?.value);
  return (
    <html lang="en-GB" data-theme={theme}>
      <body>
        {children}
        <LateFonts />
        <PressKept />
      </body>
    </html>
  );
}
