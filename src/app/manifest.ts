import type { MetadataRoute } from "next";

/** What a device that keeps Almanac on its home screen shows of it (W3C, Web Application Manifest). */
export default function manifest(): MetadataRoute.Manifest {
  return {
    name: "Almanac",
    short_name: "Almanac",
    description: "Work handed out, handed in, answered and handed back until it is right.",
    start_url: "/",
    display: "standalone",
    background_color: "#faf6ee",
    theme_color: "#0a5f6b",
    icons: [
      { src: "/icon.svg", sizes: "any", type: "image/svg+xml", purpose: "any" },
      { src: "/icon-192.png", sizes: "192x192", type: "image/png", purpose: "maskable" },
      { src: "/icon-512.png", sizes: "512x512", type: "image/png", purpose: "maskable" },
    ],
  };
}
