import { reactRouter } from "@react-router/dev/vite";
import tailwindcss from "@tailwindcss/vite";
import { defineConfig } from "vite";

/** What pages are made of goes into the server's build as far as they use it: read from its many files it would take the start half a second longer. */
const BUNDLED = [
  ...["lucide-react", "date-fns", "radix-ui", "cmdk", "sonner", "react-resizable-panels", "react-apexcharts"],
  ...[
    "zod",
    "proj4",
    "mgrs",
    "wkt-parser",
    /^react-remove-scroll/,
    /^use-(sidecar|callback-ref)$/,
    "react-style-singleton",
    "aria-hidden",
    "tslib",
    /^@floating-ui\//,
  ],
  ...[/^@radix-ui\//, /^@conform-to\//, /^@dnd-kit\//, /^@tanstack\//],
];

export default defineConfig({
  plugins: [tailwindcss(), reactRouter()],
  // The server's own entry is built together with the app, so both share one store in one process.
  environments: {
    ssr: { resolve: { noExternal: BUNDLED }, build: { rollupOptions: { input: "./server/app.ts" } } },
  },
  worker: { format: "es" },
});
