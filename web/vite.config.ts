import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";
import { VitePWA } from "vite-plugin-pwa";

// The worker is served from the root, so that it may answer for every page; see server/front.
const worker = VitePWA({
  injectRegister: false,
  manifest: false,
  workbox: {
    globPatterns: ["**/*.{js,css,woff2,svg}"],
    modifyURLPrefix: { "": "/static/" },
    inlineWorkboxRuntime: true,
    clientsClaim: true,
    skipWaiting: true,
    navigateFallback: null,
    runtimeCaching: [
      {
        // Every address is the same page: keep the last one, for when nobody answers.
        urlPattern: ({ request, url }) =>
          request.mode === "navigate" && !url.pathname.startsWith("/api/"),
        handler: "NetworkFirst",
        options: {
          cacheName: "page",
          networkTimeoutSeconds: 4,
          plugins: [{ cacheKeyWillBeUsed: () => Promise.resolve("/") }],
        },
      },
    ],
  },
});

export default defineConfig({
  base: "/static/",
  plugins: [react(), tailwindcss(), worker],
  build: { manifest: true, rollupOptions: { input: "src/main.tsx" }, assetsInlineLimit: 0 },
});
