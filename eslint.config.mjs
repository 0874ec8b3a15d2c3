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
      // These three serve the React compiler, which is not used here; refs that outlive a drawing are meant.
      "react-hooks/immutability": "off",
      "react-hooks/refs": "off",
      "react-hooks/preserve-manual-memoization": "off",
      "max-lines": "off",
    },
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
