import type { BuiltWork } from "../../api/generated/as-built";
import { useShow } from "../../job/shown";

/** The least grinding and filling that brings every plane back, or why there is none. */
export function Work({ work }: { work: BuiltWork }) {
  const show = useShow();
  return (
    <section aria-label="To put it right" className="space-y-1" data-work={work.possible}>
      <h2 className="font-semibold">To put it right</h2>
      {work.possible ? (
        <>
          {[work.grind, work.fill].map((part) => part && <p key={part.text}>{part.text}.</p>)}
          <p className="text-sm">
            The least that brings every plane back, tried on the floor as you read it. Grinding
            makes silica dust: mask and extraction.
          </p>
          {work.after && (
            <button type="button" className="btn h-11" onClick={() => show({ look: "after" })}>
              Show the floor put right
            </button>
          )}
        </>
      ) : (
        <p>{work.because}</p>
      )}
    </section>
  );
}
