import { reactRouter } from "@react-router/dev/vite";
import tailwindcss from "@tailwindcss/vite";
import { defineConfig } from "vite";

export default defineConfig(({ isSsrBuild }) => ({
  plugins: [tailwindcss(), reactRouter()],
  // The server's own entry is built together with the app, so both share one store in one process.
  build: isSsrBuild ? { rollupOptions: { input: "./server/app.ts" } } : {},
  worker: { format: "es" as const },
}));
