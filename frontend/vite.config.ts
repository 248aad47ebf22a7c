import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

export default defineConfig({
  plugins: [react()],
  build: {
    outDir: "../src/lean_ledger/web/static",
    emptyOutDir: true,
    chunkSizeWarningLimit: 1600,
    // a font inlined as data would be refused by the page's own policy
    assetsInlineLimit: (file) => (/\.(woff2?|ttf)$/.test(file) ? false : undefined),
  },
  server: { proxy: { "/api": "http://127.0.0.1:8321" } },
});
