import { useState } from "react";
import { useScreen } from "../../job/context";

const MOST = 4000;

/** What the job is about, in words of one's own. */
export function NoteField() {
  const { plan, set } = useScreen();
  const [typed, setTyped] = useState<string | null>(null);
  return (
    <textarea
      className="textarea w-full min-h-11 text-base leading-snug px-2.5 py-2 field-sizing-content resize-none"
      rows={1}
      aria-label="What this job is about"
      placeholder="What this job is about"
      data-field="/job/note"
      value={typed ?? plan.job.note}
      maxLength={MOST}
      onChange={(event) => setTyped(event.currentTarget.value)}
      onBlur={() => {
        if (typed !== null && typed !== plan.job.note) set("/job/note", typed);
        setTyped(null);
      }}
      onKeyDown={(event) => {
        if (event.key === "Escape") setTyped(null);
      }}
    />
  );
}
