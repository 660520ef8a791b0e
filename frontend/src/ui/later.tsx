import { type ComponentType, lazy } from "react";

/** After so long what was not opened yet is loaded too, ms: it then opens without a network. */
const MOMENT = 1500;

/** A page that is loaded when it is first opened: others open without what only it needs. */
export function later(load: () => Promise<ComponentType>) {
  setTimeout(() => void load().catch(() => undefined), MOMENT);
  return lazy(() => load().then(asPage, () => asPage(NotLoaded)));
}

const asPage = (page: ComponentType) => ({ default: page });

function NotLoaded() {
  return (
    <main className="p-8 space-y-4 max-w-2xl" data-not-loaded>
      <h1 className="text-2xl font-bold">This page did not load</h1>
      <p role="alert">The server did not answer. Nothing is lost: check the network, try again.</p>
      <div className="flex flex-wrap gap-2">
        <button type="button" className="btn btn-info h-11" onClick={() => location.reload()}>
          Try again
        </button>
        <a className="btn h-11" href="/">
          To the jobs
        </a>
      </div>
    </main>
  );
}
