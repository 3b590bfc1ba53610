/** Without it everything works but opening a page with no network. */
export function installWorker(): void {
  if (!("serviceWorker" in navigator)) return;
  void navigator.serviceWorker
    .register("/sw.js", { scope: "/" })
    .then(() => navigator.serviceWorker.ready)
    .then(keepThePage)
    .catch(() => undefined);
}

/** The page that is open was fetched before there was a worker to keep it. */
async function keepThePage(): Promise<void> {
  const pages = await caches.open("page");
  if (!(await pages.match("/"))) await pages.add("/");
}
