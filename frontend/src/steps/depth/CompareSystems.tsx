import { CircleAlert, CircleCheck, CircleX } from "lucide-react";
import { useEffect, useState } from "react";
import { api, type Candidate, type Problem } from "../../api/client";
import { useScreen } from "../../job/context";
import { Modal } from "../../ui/Modal";

const RANK = { fits: 0, cautions: 1, stops: 2, none: 3 } as const;
const SAYS = {
  fits: "Works",
  cautions: "Works, with points to check",
  stops: "Does not work here",
  none: "Cannot be put in here",
} as const;
const LOOK = {
  fits: [CircleCheck, "text-success"],
  cautions: [CircleAlert, "text-warning"],
  stops: [CircleX, "text-error"],
  none: [CircleX, "text-error"],
} as const;

/** Every system put into this plan: which fit, what recess each needs, what is wrong with each. */
export function CompareSystems({
  onClose,
  pick,
}: {
  onClose: () => void;
  pick: (id: string) => void;
}) {
  const { plan } = useScreen();
  const [told, setTold] = useState<Candidate[]>([]);
  const [error, setError] = useState<Problem | null>(null);
  const [done, setDone] = useState(false);
  // What is compared is the plan as it was when the question was asked.
  const [asked] = useState(plan);
  useEffect(() => {
    const stop = new AbortController();
    setTold([]);
    (async () => {
      for await (const one of api.compareSystems(asked, stop.signal)) {
        setTold((before) => [...before, one]);
      }
      setDone(true);
    })().catch((problem) => {
      if (!stop.signal.aborted) setError(problem as Problem);
    });
    return () => stop.abort();
  }, [asked]);
  const sorted = [...told].sort(
    (a, b) =>
      RANK[a.verdict] - RANK[b.verdict] ||
      a.against.length - b.against.length ||
      (a.recess ?? Number.POSITIVE_INFINITY) - (b.recess ?? Number.POSITIVE_INFINITY),
  );
  return (
    <Modal title="Systems for this room" wide onClose={onClose}>
      <p aria-live="polite" className="mt-1 min-h-6" data-compared={done ? told.length : undefined}>
        {done
          ? `${told.filter((one) => RANK[one.verdict] < 2).length} of ${told.length} fit without a stop. Recess and steps are those of the plan that each makes.`
          : `${told.length} put into the plan …`}
      </p>
      {!done && !error && <progress className="progress w-full" aria-label="Systems compared" />}
      {error && (
        <p role="alert" className="text-error">
          {error.message}
        </p>
      )}
      <ul className="mt-2 divide-y divide-base-300">
        {sorted.map((one) => (
          <Row
            key={one.id}
            one={one}
            pick={() => {
              pick(one.id);
              onClose();
            }}
          />
        ))}
      </ul>
    </Modal>
  );
}

function Row({ one, pick }: { one: Candidate; pick: () => void }) {
  const [Icon, colour] = LOOK[one.verdict];
  return (
    <li
      className="py-3 grid gap-x-4 gap-y-1 sm:grid-cols-[1fr_13rem_9rem] items-start"
      data-candidate={one.id}
    >
      <div>
        <h3 className="font-bold leading-tight">{one.name}</h3>
        <p className="flex gap-1.5 items-center mt-0.5">
          <Icon size={18} aria-hidden className={`${colour} shrink-0`} /> {SAYS[one.verdict]}
        </p>
        {one.against.length > 0 && (
          <ul className="text-sm list-disc pl-5 mt-0.5">
            {one.against.slice(0, 3).map((title) => (
              <li key={title}>{title}</li>
            ))}
            {one.against.length > 3 && <li>and {one.against.length - 3} more</li>}
          </ul>
        )}
      </div>
      <dl className="grid grid-cols-[auto_1fr] gap-x-3">
        <dt>recess</dt>
        <dd className="font-bold text-right text-lg leading-snug">{one.recess_text}</dd>
        <dt>depth</dt>
        <dd className={`text-right ${(one.left ?? 0) < 0 ? "text-error font-semibold" : ""}`}>
          {one.left_text}
        </dd>
        <dt>entry</dt>
        <dd className="text-right">{one.step_text}</dd>
      </dl>
      {one.chosen ? (
        <p className="text-right font-semibold self-center">in this plan</p>
      ) : (
        <button
          type="button"
          className="btn h-11"
          disabled={one.verdict === "none"}
          aria-label={`Use this: ${one.name}`}
          onClick={pick}
        >
          Use this
        </button>
      )}
    </li>
  );
}
