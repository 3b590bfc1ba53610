import { notifyManager, QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { setNonce } from "get-nonce";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { RouterProvider } from "react-router/dom";
import { Refused } from "./api/client";
import { bindQueue } from "./app/bindQueue";
import { installWorker } from "./app/worker";
import { router } from "./app/router";
import "./styles.css";

const nonce = document.querySelector<HTMLMetaElement>('meta[name="csp-nonce"]')?.content;
if (nonce) setNonce(nonce);

/** Whoever refuses, or is not there, says the same at once again. */
const once = (count: number, error: Error) => count < 1 && !(error instanceof Refused);

// An answer and what follows from it elsewhere are drawn in one go.
notifyManager.setScheduler(queueMicrotask);
const queries = new QueryClient({
  defaultOptions: {
    // Asked without a network too: the device may know, and what it does not know is said in its place.
    queries: { staleTime: 15_000, retry: once, refetchOnWindowFocus: true, networkMode: "always" },
    mutations: { networkMode: "always" },
  },
});
bindQueue(queries);
installWorker();

const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <RouterProvider router={router} />
      </QueryClientProvider>
    </StrictMode>,
  );
}
