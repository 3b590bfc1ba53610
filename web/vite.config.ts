import { transformAsync } from "@babel/core";
import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig, type Plugin } from "vite";
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
        // Every address is the same page: keep the last one, for when nobody answers. A client's
        // report and what machines ask for are no such page, and are kept nowhere.
        urlPattern: ({ request, url }) =>
          request.mode === "navigate" && !/^\/(api|r|calendar|static|healthz|readyz)(\/|$)/.test(url.pathname),
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

/** The React Compiler: what did not change is not drawn again. Its Vite plugin wants a newer Node. */
const compiler: Plugin = {
  name: "react-compiler",
  enforce: "pre",
  transform: {
    filter: { id: /\/src\/.*\.tsx?$/ },
    handler: (code, id) =>
      transformAsync(code, {
        filename: id,
        configFile: false,
        babelrc: false,
        sourceMaps: true,
        parserOpts: { plugins: id.endsWith("x") ? ["typescript", "jsx"] : ["typescript"] },
        plugins: ["babel-plugin-react-compiler"],
      }).then((made) => (made?.code ? { code: made.code, map: made.map } : null)),
  },
};

export default defineConfig({
  base: "/static/",
  plugins: [compiler, react(), tailwindcss(), worker],
  build: { manifest: true, rollupOptions: { input: "src/main.tsx" }, assetsInlineLimit: 0 },
});
