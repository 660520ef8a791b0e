import { Check, ChevronDown, Download, Eraser } from "lucide-react";
import { useEffect, useRef } from "react";
import type { CheckLine, MarkGroup, StaleMark } from "../../api/generated/solution";
import { useScreen } from "../../job/context";
import { useLights, useShow, useShown } from "../../job/shown";
import { MeasureField } from "../../ui/MeasureField";
import { MarkRow } from "./MarkRow";
import { leftIn, openGroup, withoutNoted } from "./noted";

/** All that is marked, in the order of work, ticked off as it is done; and the check card. */
export function MarksStep() {
  const { plan, solution, jobId } = useScreen();
  const result = solution?.marks;
  if (solution && !solution.complete) {
    return <p>There is something to mark once the falls can be worked out.</p>;
  }
  if (!result) return <p aria-busy>Taking measures…</p>;
  const total = result.groups.reduce((sum, group) => sum + group.marks.length, 0);
  const left = result.groups.reduce((sum, group) => sum + leftIn(plan, group), 0);
  return (
    <div className="space-y-4">
      <div
        className={`border-l-4 rounded-r-box px-3 py-2 leading-snug ${left ? "border-info bg-info/10" : "border-success bg-success/10"}`}
        data-left={left}
      >
        <strong className="text-lg">
          {left ? `${left} of ${total} still to mark` : `All ${total} marked`}
        </strong>
        <progress
          className="progress progress-info block w-full mt-1"
          aria-label="Marked"
          value={total - left}
          max={total}
        />
        <span className="block text-sm mt-1">{result.measured_from}</span>
      </div>
      {result.stale.map((stale, i) => (
        <Stale key={`${i} ${stale.from_text}`} stale={stale} />
      ))}
      <div className="fields">
        <MeasureField
          label="Level line over the high spot"
          path="/setting_out/staff_on_high_spot"
          hint="what the laser's staff reads on the old floor's highest place"
        />
        {plan.shower.former.kind === "bed" && (
          <MeasureField label="Between pins" path="/setting_out/pin_spacing" />
        )}
      </div>
      <div className="border-y border-base-300 divide-y divide-base-300">
        {result.groups.map((group) => (
          <Group key={group.kind} group={group} />
        ))}
      </div>
      {result.pins.none_because && <p>{result.pins.none_because}</p>}
      <a className="btn h-11" href={`/api/jobs/${jobId}/marks.csv`}>
        <Download size={18} aria-hidden /> Save the list as CSV
      </a>
      <CheckCard lines={result.pins.lines} />
    </div>
  );
}

/** Something that was marked and holds no more. */
function Stale({ stale }: { stale: StaleMark }) {
  const { change } = useScreen();
  const lights = useLights();
  return (
    <div
      className="border-l-4 border-warning bg-warning/10 rounded-r-box px-3 py-2 leading-snug"
      data-stale={stale.noted.name}
      {...lights(`was ${stale.noted.name}`)}
    >
      <strong className="block">Holds no more: {stale.noted.name}</strong>
      {stale.from_text && <span className="block">{stale.from_text}</span>}
      <span className="block">{stale.said}</span>
      <button
        type="button"
        className="btn h-11 mt-1"
        aria-label={`${stale.noted.name}: rubbed out`}
        onClick={() => change((old) => withoutNoted(old, stale.noted))}
      >
        <Eraser size={18} aria-hidden /> Rubbed out
      </button>
    </div>
  );
}

/** Marks that are made together; one group is open at a time, and the chart shows that one. */
function Group({ group }: { group: MarkGroup }) {
  const { plan, solution } = useScreen();
  const show = useShow();
  const asked = useShown((shown) => shown.group);
  const open = !!solution?.marks && openGroup(plan, solution.marks, asked) === group.kind;
  const left = leftIn(plan, group);
  const head = useRef<HTMLHeadingElement>(null);
  const chosen = asked === group.kind;
  useEffect(() => {
    // What was open above it has closed: the head may have moved out of sight.
    if (chosen) head.current?.scrollIntoView({ block: "nearest" });
  }, [chosen]);
  const id = `marks-${group.kind.replace(" ", "-")}`;
  return (
    <section aria-label={group.title}>
      <h2 ref={head} className="scroll-mt-2">
        <button
          type="button"
          className="w-full min-h-12 flex items-center gap-2 text-left cursor-pointer"
          aria-expanded={open}
          aria-controls={id}
          data-group={group.kind}
          onClick={() => show({ group: open ? "" : group.kind })}
        >
          <ChevronDown size={18} aria-hidden className={open ? "" : "-rotate-90"} />
          <span className="font-semibold flex-1">{group.title}</span>
          {left ? (
            <span>
              {left} of {group.marks.length} left
            </span>
          ) : (
            <span className="text-success font-semibold flex items-center gap-1">
              <Check size={18} aria-hidden /> done
            </span>
          )}
        </button>
      </h2>
      <div id={id} hidden={!open}>
        {open && (
          <>
            <p className="text-sm mb-1">{group.said}</p>
            <ul className="divide-y divide-base-300">
              {group.marks.map((mark) => (
                <MarkRow key={mark.name} mark={mark} />
              ))}
            </ul>
          </>
        )}
      </div>
    </section>
  );
}

function CheckCard({ lines }: { lines: CheckLine[] }) {
  return (
    <section>
      <h2 className="font-semibold mb-1">Check card: six lines from the rim</h2>
      <p className="text-sm mb-1">
        Level on the rim, bubble centred: at each distance the finished floor stands this much
        higher. The wedge under the level opens towards the drain.
      </p>
      <ul className="divide-y divide-base-300 border-y border-base-300">
        {lines.map((line) => (
          <li key={line.name} className="py-1.5">
            <span className="text-sm">{line.name}</span>
            <span className="flex flex-wrap gap-x-4">
              {line.distances.map((distance, i) => (
                <span key={distance}>
                  {distance} <strong>+{line.rises[i]}</strong>
                </span>
              ))}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
