import { fileURLToPath } from "node:url";
import tailwindcss from "@tailwindcss/vite";
import { defineConfig } from "vite";
import { VitePWA } from "vite-plugin-pwa";

const from = (path: string) => fileURLToPath(new URL(path, import.meta.url));

/** The crew's part is a page of its own: a browser keeps it, so that it opens without signal. */
export default defineConfig({
  root: from("field"),
  base: "/field/",
  publicDir: from("field/public"),
  build: { outDir: from("build/field"), emptyOutDir: true },
  plugins: [
    tailwindcss(),
    VitePWA({
      strategies: "generateSW",
      registerType: "autoUpdate",
      injectRegister: false,
      manifest: {
        name: "Tejado in the field",
        short_name: "Tejado",
        description: "Jobs, aiming and readings on the roof, with or without signal.",
        start_url: "/field/",
        scope: "/field/",
        display: "standalone",
        background_color: "#f6f2ea",
        theme_color: "#a8481f",
        icons: [
          { src: "mark-192.png", sizes: "192x192", type: "image/png" },
          { src: "mark-512.png", sizes: "512x512", type: "image/png" },
          { src: "mark-512.png", sizes: "512x512", type: "image/png", purpose: "maskable" },
        ],
      },
      workbox: {
        globPatterns: ["**/*.{html,js,css,woff2,png,svg}"],
        navigateFallback: "/field/index.html",
        cleanupOutdatedCaches: true,
        clientsClaim: true,
        skipWaiting: true,
        inlineWorkboxRuntime: true,
        // Photographs of a job that was taken along are looked at on the roof, and what was listened to once is heard again.
        runtimeCaching: [
          {
            urlPattern: ({ url }) => /^\/plans\/[^/]+\/photos\/[^/]+$/.test(url.pathname),
            handler: "CacheFirst",
            options: { cacheName: "photographs", expiration: { maxEntries: 300 } },
          },
          {
            urlPattern: ({ url }) => /^\/plans\/[^/]+\/field\/voices\/[^/]+$/.test(url.pathname),
            handler: "CacheFirst",
            options: { cacheName: "recordings", expiration: { maxEntries: 100 }, rangeRequests: true },
          },
        ],
      },
    }),
  ],
});
