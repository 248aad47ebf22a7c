import hooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

export default tseslint.config(
  { ignores: ["src/api/schema.d.ts"] },
  ...tseslint.configs.strict,
  {
    files: ["src/**/*.{ts,tsx}"],
    plugins: { "react-hooks": hooks },
    rules: {
      ...hooks.configs.recommended.rules,
      "no-restricted-globals": ["error", { name: "fetch", message: "Only api/ talks to the server." }],
    },
  },
  { files: ["src/api/**"], rules: { "no-restricted-globals": "off" } },
  {
    files: ["src/views/**"],
    rules: { "no-restricted-imports": ["error", { patterns: ["**/chapters/**", "**/shell/**"] }] },
  },
);
