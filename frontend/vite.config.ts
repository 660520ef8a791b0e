import { createHash } from "node:crypto";
import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig, type Plugin } from "vite";

const WORKER = "sw.js";

/** Writes into the service worker which files it keeps. */
function keptFiles(): Plugin {
  return {
    name: "kept-files",
    enforce: "post",
    generateBundle(_options, bundle) {
      const files = Object.values(bundle)
        .filter((file) => file.fileName !== WORKER)
        .map((file) => {
          // What is named by its content needs no other mark.
          const content = file.type === "chunk" ? file.code : file.source;
          const named = file.fileName.startsWith("assets/");
          const revision = named ? null : createHash("sha256").update(content).digest("hex");
          return { url: `/${file.fileName}`, revision };
        });
      const worker = bundle[WORKER];
      if (worker?.type !== "chunk") throw new Error("There is no service worker.");
      worker.code = worker.code.replace("__FILES__", JSON.stringify(files));
    },
  };
}

export default defineConfig({
  plugins: [
    // Compiled, a part whose values did not change is not drawn again.
    react({ compiler: true }),
    tailwindcss(),
    keptFiles(),
  ],
  build: {
    outDir: "../src/calm_basin/web/static",
    emptyOutDir: true,
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 700,
    rollupOptions: {
      input: { index: "index.html", sw: "src/sw.ts" },
      output: {
        entryFileNames: ({ name }) => (name === "sw" ? WORKER : "assets/[name]-[hash].js"),
      },
    },
  },
  server: { proxy: { "/api": "http://127.0.0.1:8000" } },
});
