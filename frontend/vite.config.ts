import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [react()],
  build: { outDir: "../src/tijera/web/static", emptyOutDir: true, target: "es2022", assetsInlineLimit: 0 },
  server: { proxy: { "/api": { target: "http://127.0.0.1:7420", changeOrigin: true } } },
  test: { include: ["src/**/*.test.ts"] },
});
