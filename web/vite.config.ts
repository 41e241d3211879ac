import { gzipSync } from "node:zlib";
import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig, type Plugin } from "vite";
import { VitePWA } from "vite-plugin-pwa";

const LIMIT_KB = 200;

/** Says how much JavaScript the first page loads, compressed, and stops the build when it is too much. */
function firstPageBudget(): Plugin {
  return {
    name: "first-page-budget",
    generateBundle(_options, bundle) {
      const loaded = new Set<string>();
      const visit = (file: string) => {
        const chunk = bundle[file];
        if (!chunk || chunk.type !== "chunk" || loaded.has(file)) return;
        loaded.add(file);
        chunk.imports.forEach(visit);
      };
      for (const [file, chunk] of Object.entries(bundle)) {
        if (chunk.type === "chunk" && chunk.isEntry) visit(file);
      }
      let bytes = 0;
      for (const file of loaded) {
        const chunk = bundle[file];
        if (chunk?.type === "chunk") bytes += gzipSync(chunk.code).length;
      }
      const kb = bytes / 1000;
      const text = `first page: ${kb.toFixed(1)} kB of compressed JavaScript (at most ${LIMIT_KB})`;
      if (kb > LIMIT_KB) this.error(text);
      this.info(text);
    },
  };
}

export default defineConfig({
  plugins: [
    react(),
    tailwindcss(),
    firstPageBudget(),
    VitePWA({
      strategies: "injectManifest",
      srcDir: "src",
      filename: "sw.ts",
      injectRegister: false,
      injectManifest: { globPatterns: ["**/*.{js,css,html,svg,png,woff2}"] },
      manifest: {
        name: "Old Spoon",
        short_name: "Old Spoon",
        description: "The bench, stove-side coach and memory of a pastry section.",
        start_url: "/",
        display: "standalone",
        background_color: "#F8F3E6",
        theme_color: "#F8F3E6",
        icons: [
          { src: "/spoon-192.png", sizes: "192x192", type: "image/png" },
          { src: "/spoon-512.png", sizes: "512x512", type: "image/png" },
          { src: "/spoon-512.png", sizes: "512x512", type: "image/png", purpose: "maskable" },
        ],
      },
    }),
  ],
  build: { target: "es2022", sourcemap: false, assetsInlineLimit: 0 },
  server: { proxy: { "/api": "http://127.0.0.1:8000" } },
});
