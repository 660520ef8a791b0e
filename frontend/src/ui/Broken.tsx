import { Component, type ReactNode } from "react";
import { putAside, unsavedTexts } from "../job/draft";
import { download } from "./storage";

interface Props {
  children: ReactNode;
}

/** Where a part of the page fails, the rest of the work is in reach; it is never blank. */
export class Broken extends Component<Props, { failed: boolean }> {
  override state = { failed: false };

  static getDerivedStateFromError() {
    return { failed: true };
  }

  override render() {
    if (!this.state.failed) return this.props.children;
    const id = /^\/jobs\/([^/]+)/.exec(location.pathname)?.[1];
    const unsaved = id ? unsavedTexts(id) : [];
    return (
      <main className="p-8 space-y-4 max-w-2xl" data-broken>
        <h1 className="text-2xl font-bold">This page failed</h1>
        <p role="alert">
          That is a fault of the program, not of what you entered. What was saved is safe.
          {unsaved.length > 0 && " What was not saved yet is kept in this browser."}
        </p>
        <div className="flex flex-wrap gap-2">
          <button type="button" className="btn btn-info h-11" onClick={() => location.reload()}>
            Try again
          </button>
          {id && unsaved.length > 0 && (
            <>
              <button
                type="button"
                className="btn h-11"
                onClick={() => {
                  putAside(id);
                  location.reload();
                }}
              >
                Open the job as it was saved
              </button>
              <button
                type="button"
                className="btn h-11"
                onClick={() => download("unsaved.json", unsaved[0] ?? "")}
              >
                Download what was not saved
              </button>
            </>
          )}
          <a className="btn h-11" href="/">
            To the jobs
          </a>
        </div>
      </main>
    );
  }
}
