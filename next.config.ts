import type { NextConfig } from "next";

const config: NextConfig = {
  poweredByHeader: false,
  reactStrictMode: true,
  serverExternalPackages: ["workerpool", "@node-rs/argon2", "postgres", "pino"],
  devIndicators: false,
  // `npm test` checks the types of everything; building checks them no second time.
  typescript: { ignoreBuildErrors: true },
  // The app stands on its own: nothing is optimised or fetched by a service elsewhere.
  images: { unoptimized: true },
};

export default config;
