import js from "@eslint/js";
import a11y from "eslint-plugin-jsx-a11y";
import hooks from "eslint-plugin-react-hooks";
import ts from "typescript-eslint";

const ROOMS = ["take", "trim", "place", "handover", "rack", "weight", "postbox", "history", "anew", "link"];
/** From the ground up: a floor knows those below it, never one above. */
const FLOORS = ["base", "api", "area", "rooms", "shell"];

/** What a floor may not import: every floor above it. */
const floorRules = FLOORS.map((floor, at) => ({
  files: [`src/${floor}/**`],
  rules: {
    "no-restricted-imports": [
      "error",
      {
        patterns: [
          {
            group: FLOORS.slice(at + 1).flatMap((above) => [`**/${above}`, `**/${above}/**`]),
            message: "A floor does not know the floors above it: base < api < area < rooms < shell.",
          },
          ...(floor === "shell"
            ? [{ group: ROOMS.map((room) => `../rooms/${room}/*`), message: "Import a room by its index." }]
            : []),
        ].filter((pattern) => pattern.group.length > 0),
      },
    ],
  },
}));

/** Rooms know each other only by what their index exports, and nothing of the shell. */
const roomRules = ROOMS.map((room) => ({
  files: [`src/rooms/${room}/**`],
  rules: {
    "no-restricted-imports": [
      "error",
      {
        patterns: [
          {
            group: ROOMS.filter((other) => other !== room).map((other) => `**/${other}/*`),
            message: "Import a room by its index.",
          },
          { group: ["**/shell", "**/shell/**"], message: "A room does not know the shell." },
        ],
      },
    ],
  },
}));

export default ts.config(
  { ignores: ["src/base/schema.ts", "*.config.*"] },
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
      complexity: ["error", 24],
      // A field in a form that has just been asked for takes the focus.
      "jsx-a11y/no-autofocus": "off",
      "@typescript-eslint/no-confusing-void-expression": [
        "error",
        { ignoreArrowShorthand: true, ignoreVoidOperator: true },
      ],
    },
  },
  ...floorRules,
  ...roomRules,
  { files: ["**/*.test.ts"], rules: { "@typescript-eslint/no-non-null-assertion": "off" } },
);
