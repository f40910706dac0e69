// Rules that the compiler does not hold: hooks, promises that nobody waits for, and who may import whom.
import reactHooks from "eslint-plugin-react-hooks";
import { defineConfig } from "eslint/config";
import tseslint from "typescript-eslint";

const CASTS = {
  selector: "TSAsExpression > TSAsExpression",
  message: "Two casts in a row hide that the types do not fit.",
};
const OURS = {
  selector: "JSXOpeningElement[name.name=/^(table|select|dialog)$/]",
  message: "Take the one of ui: it sorts, is reached by keyboard and looks alike everywhere.",
};
const TYPED = {
  selector: "JSXAttribute[name.name='type'][value.value=/^(date|time|datetime-local|checkbox)$/]",
  message: "Take the field of ui: it follows the profile, not the browser.",
};

export default defineConfig(
  { ignores: ["src/api/generated.ts"] },
  {
    files: ["src/**/*.{ts,tsx}"],
    extends: [tseslint.configs.recommendedTypeChecked, reactHooks.configs.flat["recommended-latest"]],
    linterOptions: { reportUnusedDisableDirectives: "error" },
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    rules: {
      "no-restricted-syntax": ["error", CASTS],
    },
  },
  {
    files: ["src/lib/**", "src/ui/**"],
    rules: {
      "no-restricted-imports": [
        "error",
        {
          patterns: [
            { group: ["**/api/**", "**/features/**"], message: "What is drawn knows nothing of the service." },
          ],
        },
      ],
    },
  },
  {
    files: ["src/features/**", "src/routes.tsx"],
    rules: {
      "no-restricted-syntax": ["error", CASTS, OURS, TYPED],
      "no-restricted-globals": ["error", { name: "fetch", message: "Ask through api/queries." }],
      "no-restricted-imports": [
        "error",
        {
          patterns: [
            {
              group: ["**/api/service", "**/api/generated"],
              allowTypeImports: true,
              message: "Ask through api/queries.",
            },
          ],
        },
      ],
    },
  },
);
