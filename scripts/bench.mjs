// Measures what ships: builds a benchmark as the server's own parts are built, and runs it: node scripts/bench.mjs main [sites …]
// Run from their sources instead, functions carry what the loader adds to them, and the hot loops take twice as long.
import { join } from "node:path";
import { build } from "vite";
import { ensureBuilt, ensureInstalled, ROOT, run } from "./prepare.mjs";

ensureInstalled();
ensureBuilt();
const BUILT = join(ROOT, ".bench");
for (const name of process.argv.slice(2)) {
  await build({
    ...{ configFile: false, publicDir: false, logLevel: "error" },
    build: {
      ...{ ssr: true, outDir: BUILT, emptyOutDir: true },
      rollupOptions: {
        input: { [name]: join(ROOT, "bench", `${name}.ts`) },
        // Threads that a benchmark starts are those of the build.
        output: { banner: 'globalThis.tejadoThreads ??= new URL("../build/server/workers/", import.meta.url);' },
      },
    },
  });
  if (!run("node", [join(BUILT, `${name}.js`)])) process.exit(1);
}
