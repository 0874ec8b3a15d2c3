import next from "eslint-config-next";
import tseslint from "typescript-eslint";

const config = [
  { ignores: [".next/**", ".almanac/**", ".almanac-test/**", "node_modules/**", "next-env.d.ts"] },
  ...next,
  ...tseslint.configs.recommended,
  {
    rules: {
      "@typescript-eslint/no-unused-vars": [
        "error",
        { argsIgnorePattern: "^_", varsIgnorePattern: "^_" },
      ],
      "@typescript-eslint/consistent-type-imports": "error",
      eqeqeq: "error",
      "no-console": "off",
      // What keeps a file in the head is its shape: see CONTRIBUTING.md, "Shape".
      // A switch is one table of cases, however many it has.
      complexity: ["error", { max: 12, variant: "modified" }],
      "max-depth": ["error", 3],
      "max-params": ["error", 4],
      "no-nested-ternary": "error",
      "max-lines": ["error", 300],
    },
  },
  {
    // Tables: each entry is read by itself.
    files: ["src/ui/desk/commands/commands.ts", "demo/texts/*.ts"],
    rules: { "max-lines": "off" },
  },
  {
    // Tests are lists of stories and of rows of a table; nobody holds one whole in the head.
    files: ["**/*.test.ts", "**/*.test.tsx", "tests/**"],
    rules: { "max-lines": "off", "max-params": "off" },
  },
  {
    files: ["src/core/**"],
    ignores: ["src/core/**/*.test.ts", "src/core/**/*.testing.ts"],
    rules: {
      // The core gets the time and the ids as values, and touches nothing outside itself.
      "no-restricted-globals": [
        "error",
        "window",
        "document",
        "fetch",
        "process",
        "setTimeout",
        "crypto",
      ],
      "no-restricted-properties": [
        "error",
        { object: "Date", property: "now" },
        { object: "Math", property: "random" },
      ],
      "no-restricted-syntax": [
        "error",
        {
          selector: "NewExpression[callee.name='Date'][arguments.length=0]",
          message: "The core is given the time.",
        },
      ],
    },
  },
];
export default config;
