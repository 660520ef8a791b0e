import { clientsClaim } from "workbox-core";
import { PrecacheFallbackPlugin, precacheAndRoute } from "workbox-precaching";
import { NavigationRoute, registerRoute } from "workbox-routing";
import { NetworkOnly } from "workbox-strategies";

/** The built files, which the build writes in here. */
declare const __FILES__: { url: string; revision: string | null }[];

/** After so long without an answer the page is opened as it was kept, s. */
const PATIENCE = 5;

// The page comes from the server where that answers, so that it is never older than the server is;
// what it is made of is named by what is in it, and kept.
precacheAndRoute(__FILES__, { directoryIndex: "", cleanURLs: false });
registerRoute(
  new NavigationRoute(
    new NetworkOnly({
      networkTimeoutSeconds: PATIENCE,
      plugins: [new PrecacheFallbackPlugin({ fallbackURL: "/index.html" })],
    }),
    { denylist: [/^\/api\//] },
  ),
);
void (self as unknown as { skipWaiting: () => Promise<void> }).skipWaiting();
clientsClaim();
