// Rules that the compiler does not hold: hooks, promises that nobody waits for, and who may import whom.
import reactHooks from "eslint-plugin-react-hooks";
import { defineConfig } from "eslint/config";
import tseslint from "typescript-eslint";

export default defineConfig(
  { ignores: ["src/api/generated.ts"] },
  {
    files: ["src/**/*.{ts,tsx}"],
    extends: [tseslint.configs.recommendedTypeChecked, reactHooks.configs.flat["recommended-latest"]],
    linterOptions: { reportUnusedDisableDirectives: "error" },
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    rules: {
      "no-restricted-syntax": [
        "error",
        { selector: "TSAsExpression > TSAsExpression", message: "Two casts in a row hide that the types do not fit." },
      ],
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
