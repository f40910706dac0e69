/// <reference types="vitest/config" />
import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

export default defineConfig({
  plugins: [react(), tailwindcss()],
  // The package carries the built console, so that an installed wheel serves it.
  build: { chunkSizeWarningLimit: 900, outDir: "../hodcarrier/console", emptyOutDir: true },
  server: { proxy: { "/api": "http://127.0.0.1:8420" } },
  // A machine that runs other tests besides may take longer than the five seconds that a test is given otherwise.
  // Files share a page: to make one for each takes four times as long as all tests together. Each test leaves it as it was.
  test: { environment: "jsdom", isolate: false, testTimeout: 60_000 },
});
