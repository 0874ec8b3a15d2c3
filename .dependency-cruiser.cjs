/** The arrows of the house: app → ui → core and app → server → core; nothing points back. */
module.exports = {
  forbidden: [
    {
      name: "no-circles",
      severity: "error",
      from: {},
      to: { circular: true, viaOnly: { dependencyTypesNot: ["type-only"] } },
    },
    {
      name: "core-is-alone",
      severity: "error",
      from: { path: "^src/core", pathNot: "\\.(test|testing)\\.tsx?$" },
      to: { path: "^(src/(server|app|ui|workers)|demo|scripts|tests)" },
    },
    {
      name: "core-knows-no-frame",
      severity: "error",
      from: { path: "^src/core", pathNot: "\\.(test|testing)\\.tsx?$" },
      to: { path: "node_modules/(react|react-dom|next|postgres|pino|@tiptap)(/|$)" },
    },
    {
      name: "ui-asks-the-api",
      severity: "error",
      from: { path: "^src/ui" },
      to: { path: "^(src/(server|app)|demo|scripts|tests)" },
    },
    {
      name: "server-draws-nothing",
      severity: "error",
      from: { path: "^src/server" },
      to: { path: "^(src/(app|ui|workers)|demo|scripts|tests)" },
    },
    {
      name: "sql-in-its-place",
      severity: "error",
      from: { path: "^src/app" },
      to: { path: "node_modules/postgres/" },
    },
  ],
  options: {
    tsPreCompilationDeps: true,
    tsConfig: { fileName: "tsconfig.json" },
    doNotFollow: { path: "node_modules" },
    exclude: { path: "\\.next/" },
  },
};
