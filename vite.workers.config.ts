import { fileURLToPath } from "node:url";
import { defineConfig } from "vite";
import { SOURCES } from "./threads/start";

const from = (path: string) => fileURLToPath(new URL(path, import.meta.url));

/** What runs beside the serving thread is built with it: entries that lie next to the server's own. */
export default defineConfig({
  publicDir: false,
  build: {
    ssr: true,
    outDir: "build/server/workers",
    emptyOutDir: true,
    rollupOptions: {
      input: Object.fromEntries(Object.entries(SOURCES).map(([name, path]) => [name, from(path.replace("../", ""))])),
      output: { entryFileNames: "[name].js", chunkFileNames: "shared/[name]-[hash].js" },
    },
  },
});
