import a11y from "eslint-plugin-jsx-a11y";
import hooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

export default tseslint.config(
  { ignores: ["src/api/schema.d.ts"] },
  ...tseslint.configs.strict,
  a11y.flatConfigs.recommended,
  {
    files: ["src/**/*.{ts,tsx}"],
    plugins: { "react-hooks": hooks },
    settings: {
      "jsx-a11y": {
        components: {
          "Form.Control": "input",
          "Form.Select": "select",
          "Form.Check.Input": "input",
          NumberCell: "input",
        },
      },
    },
    rules: {
      ...hooks.configs.recommended.rules,
      // what scrolls or turns by the arrow keys has to be reached by them
      "jsx-a11y/no-noninteractive-tabindex": ["error", { tags: [], roles: ["region", "application"] }],
      "no-restricted-globals": ["error", { name: "fetch", message: "The typed client of api/ talks to the server." }],
    },
  },
  {
    files: ["src/views/**"],
    rules: { "no-restricted-imports": ["error", { patterns: ["**/chapters/**", "**/shell/**"] }] },
  },
);
