import { type ComponentType, lazy } from "react";
import { Masthead } from "./Masthead";

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
    <div data-not-loaded>
      <Masthead />
      <main className="max-w-3xl mx-auto px-5 py-8 space-y-4">
        <h1 className="text-2xl font-bold">This page did not load</h1>
        <p role="alert" className="text-lg">
          The network is gone, or the program was renewed meanwhile. Nothing is lost.
        </p>
        <div className="flex flex-wrap gap-2">
          <button type="button" className="btn btn-info h-11" onClick={() => location.reload()}>
            Try again
          </button>
          <a className="btn h-11" href="/">
            To the jobs
          </a>
        </div>
      </main>
    </div>
  );
}
