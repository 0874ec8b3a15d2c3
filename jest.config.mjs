const shared = {
  testEnvironment: "node",
  transform: {
    "^.+\\.(t|j)sx?$": [
      "@swc/jest",
      {
        jsc: {
          parser: { syntax: "typescript", tsx: true },
          transform: { react: { runtime: "automatic" } },
          target: "es2022",
        },
      },
    ],
  },
  // These ship as ES modules only; Jest runs CommonJS, so they are transformed too.
  transformIgnorePatterns: [
    "/node_modules/(?!(idb-keyval|intl-messageformat|@formatjs|uuidv7|marked|gemoji|@tus|srvx|file-type|strtok3|token-types|uint8array-extras|@tokenizer|@borewit)/)",
  ],
  moduleNameMapper: {
    // The upload protocol is asked in its web form; its adapter for Node's own server ships in a form Jest cannot load.
    "^srvx/node$": "<rootDir>/tests/support/noNodeAdapter.ts",
    "^@/(.*)$": "<rootDir>/src/$1",
    "^@demo/(.*)$": "<rootDir>/demo/$1",
  },
  modulePathIgnorePatterns: ["<rootDir>/.next", "<rootDir>/.almanac", "<rootDir>/.almanac-test"],
};

const config = {
  testSequencer: "<rootDir>/tests/support/longestFirst.mjs",
  projects: [
    {
      ...shared,
      displayName: "unit",
      testMatch: [
        "<rootDir>/src/**/*.test.ts",
        "<rootDir>/src/**/*.test.tsx",
        "<rootDir>/demo/**/*.test.ts",
      ],
    },
    { ...shared, displayName: "database", testMatch: ["<rootDir>/tests/database/**/*.test.ts"] },
    { ...shared, displayName: "system", testMatch: ["<rootDir>/tests/system/**/*.test.ts"] },
    { ...shared, displayName: "outage", testMatch: ["<rootDir>/tests/outage/**/*.test.ts"] },
    { ...shared, displayName: "browser", testMatch: ["<rootDir>/tests/browser/**/*.test.ts"] },
  ],
};
export default config;
