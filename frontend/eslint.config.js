import js from "@eslint/js";
import a11y from "eslint-plugin-jsx-a11y";
import hooks from "eslint-plugin-react-hooks";
import ts from "typescript-eslint";

const ROOMS = ["take", "trim", "place", "handover", "rack", "weight"];

export default ts.config(
  { ignores: ["src/api/schema.ts", "*.config.*"] },
  js.configs.recommended,
  ...ts.configs.strictTypeChecked,
  a11y.flatConfigs.recommended,
  hooks.configs.flat.recommended,
  {
    languageOptions: { parserOptions: { project: "./tsconfig.json", tsconfigRootDir: import.meta.dirname } },
    rules: {
      // Named exports only: a thing has one name everywhere.
      "no-restricted-syntax": ["error", { selector: "ExportDefaultDeclaration", message: "Export by name." }],
      // Numbers in templates are what a user interface is made of.
      "@typescript-eslint/restrict-template-expressions": ["error", { allowNumber: true, allowBoolean: true }],
      "max-lines": ["error", { max: 330, skipBlankLines: true, skipComments: true }],
      // A field in a form that has just been asked for takes the focus.
      "jsx-a11y/no-autofocus": "off",
      "@typescript-eslint/no-confusing-void-expression": [
        "error",
        { ignoreArrowShorthand: true, ignoreVoidOperator: true },
      ],
    },
  },
  // Rooms know each other only by what their index exports.
  ...ROOMS.map((room) => ({
    files: [`src/${room}/**`],
    rules: {
      "no-restricted-imports": [
        "error",
        {
          patterns: [
            {
              group: ROOMS.filter((other) => other !== room).map((other) => `**/${other}/*`),
              message: "Import a room by its index.",
            },
          ],
        },
      ],
    },
  })),
  {
    files: ["src/app/**"],
    rules: {
      "no-restricted-imports": [
        "error",
        { patterns: [{ group: ROOMS.map((room) => `../${room}/*`), message: "Import a room by its index." }] },
      ],
    },
  },
  { files: ["**/*.test.ts"], rules: { "@typescript-eslint/no-non-null-assertion": "off" } },
);
