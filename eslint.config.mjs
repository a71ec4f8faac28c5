import js from "@eslint/js";
import hooks from "eslint-plugin-react-hooks";
import globals from "globals";
import ts from "typescript-eslint";

export default ts.config(
  {
    ignores: [
      "build/**",
      "data/**",
      ".react-router",
      "node_modules",
      "test-results",
      "playwright-report",
      ".mutants",
      ".bench",
    ],
  },
  js.configs.recommended,
  ...ts.configs.recommended,
  // Fields may be named to leave them out of a rest.
  { rules: { "@typescript-eslint/no-unused-vars": ["error", { ignoreRestSiblings: true }] } },
  {
    files: ["app/**/*.{ts,tsx}", "field/**/*.{ts,tsx}"],
    plugins: { "react-hooks": hooks },
    rules: { "react-hooks/rules-of-hooks": "error", "react-hooks/exhaustive-deps": "error" },
  },
  // Playwright reads a fixture's needs from its pattern, which may be empty.
  { files: ["e2e/**"], rules: { "no-empty-pattern": "off" } },
  { files: ["**/*.mjs"], languageOptions: { globals: globals.node } },
  {
    files: ["core/**/*.ts"],
    ignores: ["**/*.test.ts"],
    rules: {
      "no-restricted-globals": ["error", "window", "document", "process", "Buffer", "fetch"],
      "no-console": "error",
    },
  },
);
