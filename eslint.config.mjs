import js from "@eslint/js";
import tseslint from "typescript-eslint";

export default tseslint.config(
  { ignores: ["**/dist/**", "**/node_modules/**", "**/*.d.json.ts"] },
  js.configs.recommended,
  ...tseslint.configs.recommended,
  {
    files: ["**/*.ts", "**/*.tsx"],
    rules: {
      "@typescript-eslint/consistent-type-imports": "error",
      "@typescript-eslint/no-non-null-assertion": "off",
      "@typescript-eslint/no-unused-vars": ["error", { argsIgnorePattern: "^_", varsIgnorePattern: "^_" }],
      // Widths and masks of bit fields are equal by chance.
      "@typescript-eslint/no-duplicate-enum-values": "off",
      // NaN is told by its being unlike itself, without a call.
      "no-self-compare": "off",
      "no-restricted-syntax": [
        "error",
        { selector: "CallExpression[callee.object.name='console']", message: "The library shows nothing." },
      ],
    },
  },
  {
    files: ["**/tests/**"],
    rules: { "@typescript-eslint/no-explicit-any": "off", "no-restricted-syntax": "off" },
  },
  {
    files: ["**/*.mjs", "**/*.cjs", "**/*.js"],
    languageOptions: {
      globals: {
        console: "readonly",
        process: "readonly",
        URL: "readonly",
        module: "writable",
        performance: "readonly",
        setTimeout: "readonly",
        clearTimeout: "readonly",
        setInterval: "readonly",
        clearInterval: "readonly",
        Buffer: "readonly",
        structuredClone: "readonly",
      },
    },
  },
  {
    files: ["**/*.cjs"],
    languageOptions: { globals: { require: "readonly", __dirname: "readonly" } },
    rules: { "@typescript-eslint/no-require-imports": "off" },
  },
  { rules: { eqeqeq: ["error", "always", { null: "ignore" }], "no-var": "error", "prefer-const": "error" } },
);
