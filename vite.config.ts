import { reactRouter } from "@react-router/dev/vite";
import tailwindcss from "@tailwindcss/vite";
import { defineConfig } from "vite";

export default defineConfig({
  plugins: [tailwindcss(), reactRouter()],
  // The server's own entry is built together with the app, so both share one store in one process.
  environments: { ssr: { build: { rollupOptions: { input: "./server/app.ts" } } } },
  worker: { format: "es" },
});
