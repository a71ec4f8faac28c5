import { fileURLToPath } from "node:url";
import { defineConfig } from "vite";

const from = (path: string) => fileURLToPath(new URL(path, import.meta.url));

/** What runs beside the serving thread is built with it: entries that lie next to the server's own. */
export default defineConfig({
  publicDir: false,
  build: {
    ssr: true,
    outDir: "build/server/workers",
    emptyOutDir: true,
    rollupOptions: {
      input: {
        plan: from("engine/thread/worker.ts"),
        pool: from("pool/worker.ts"),
        reader: from("jobs/workers/reader.ts"),
        packer: from("jobs/workers/packer.ts"),
        database: from("store/thread/worker.ts"),
        watch: from("jobs/workers/watch.ts"),
        print: from("app/print/worker.ts"),
      },
      output: { entryFileNames: "[name].js", chunkFileNames: "shared/[name]-[hash].js" },
    },
  },
});
