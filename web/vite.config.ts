import { readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { brotliCompressSync, gzipSync } from "node:zlib";
import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig, type Plugin } from "vite";
import { VitePWA } from "vite-plugin-pwa";

const LIMIT_KB = 200;

/** The fonts that a page in English draws with at once; the others come only for the letters they are for. */
const FONTS_AT_ONCE = /(atkinson-hyperlegible-next-latin-wght-normal|fraunces-latin-soft-normal)-.*\.woff2$/;

/** Says how much the first page loads, compressed, and stops the build when it is too much. */
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
      const entries = Object.entries(bundle).filter(([, chunk]) => chunk.type === "chunk" && chunk.isEntry);
      for (const [file] of entries) visit(file);
      const styles = entries.flatMap(([, chunk]) =>
        chunk.type === "chunk" ? [...(chunk.viteMetadata?.importedCss ?? [])] : [],
      );
      const compressed = (file: string) => {
        const found = bundle[file];
        if (!found) return 0;
        return gzipSync(found.type === "chunk" ? found.code : found.source).length / 1000;
      };
      const sum = (files: Iterable<string>) => [...files].reduce((kb, file) => kb + compressed(file), 0);
      const fonts = Object.keys(bundle).filter((file) => FONTS_AT_ONCE.test(file));
      const kb = sum(loaded) + sum(styles);
      const text = `first page: ${kb.toFixed(1)} kB compressed, scripts and styles (at most ${LIMIT_KB}); fonts ${sum(fonts).toFixed(1)} kB, kept from then on`;
      if (kb > LIMIT_KB) this.error(text);
      this.info(text);
    },
  };
}

/** Beside every file that is worth it lies the same one compressed, which the server sends to whoever can read it. */
function compressedBeside(): Plugin {
  return {
    name: "compressed-beside",
    writeBundle({ dir = "dist" }, bundle) {
      for (const file of Object.keys(bundle)) {
        if (!/\.(js|css|svg|webmanifest)$/.test(file)) continue;
        const whole = readFileSync(join(dir, file));
        if (whole.length < 1000) continue;
        writeFileSync(join(dir, `${file}.gz`), gzipSync(whole, { level: 9 }));
        writeFileSync(join(dir, `${file}.br`), brotliCompressSync(whole));
      }
    },
  };
}

export default defineConfig({
  plugins: [
    react(),
    tailwindcss(),
    firstPageBudget(),
    compressedBeside(),
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
