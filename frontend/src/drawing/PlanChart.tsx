import { Focus, House, Maximize, Minus, Plus } from "lucide-react";
import { type KeyboardEvent, type ReactNode, useId, useMemo, useState } from "react";
import type { Plan, Solution } from "../api/client";
import type { Finding } from "../api/generated/solution";
import { useShow, useShown } from "../job/shown";
import { Caption, type CaptionProps, caption, captionBox } from "./Caption";
import type { Box } from "./clear";
import { Dimensions } from "./Dimensions";
import { Fade } from "./Fade";
import { boxesOf, FindingMarks, marksOf } from "./FindingMarks";
import { Floor } from "./Floor";
import { type Handle, HandleMark } from "./handles";
import { Legend, useHidden } from "./Legend";
import { OverFloor, Room } from "./Room";
import { LETTER, LETTER_OUT, lettersOf, SectionLine, within } from "./SectionLine";
import { besideShower, sideLabels } from "./sides";
import { useGrip } from "./useGrip";
import { useLens } from "./useLens";
import { usePointed } from "./usePointed";
import {
  edges,
  fitted,
  path,
  type SnapTo,
  snapped,
  useSize,
  type View,
  wholeIfNear,
  type XY,
} from "./view";

interface Props {
  plan: Plan;
  solution: Solution;
  handles: Handle[];
  /** Which part fills the chart and has its sides measured. */
  focus: "room" | "shower";
  /** The floor that is there, in place of the shower's finished floor. */
  ground?: (view: View) => ReactNode;
  /** What is drawn over the finished floor. */
  overlay?: (view: View) => ReactNode;
  /** What is drawn over that and has the keyboard. */
  over?: (view: View) => ReactNode;
  /** Whether planes and places carry their figures. */
  labelled: boolean;
  picked?: XY | null;
  onPick?: (place: XY) => void;
  onMove: (edit: (plan: Plan) => Plan) => void;
  /** A drag begins, ends, or is taken back. */
  onHold: (held: "begun" | "ended" | "taken back") => void;
  /** A handle was dragged from one place to another. */
  onMoved: (handle: Handle, from: XY, to: XY) => void;
  /** A finger touched a handle and did not hold it. */
  onTouched: (handle: Handle) => void;
  /** What is found and marked on it. */
  findings: Finding[];
}

/** About how long the caption at the chart's foot is, pixels. */
const CAPTION = 380;
/** Half of what is kept free for a handle, pixels. */
const HANDLE = 15;
/** Where a chart is narrower than this its caption is one line under the drawing, this high. */
const [NARROW, STRIP] = [600, 20];
const MARGIN = { room: 60, shower: 66 };

/** The plan as a chart: land, joists beneath, the shower's depths, and what can be moved. */
export function PlanChart({
  plan,
  solution,
  handles,
  focus,
  ground,
  overlay,
  over,
  labelled,
  picked,
  onPick,
  onMove,
  onHold,
  onMoved,
  onTouched,
  findings,
}: Props) {
  const hidden = useShown((shown) => shown.hidden);
  const show = useShow();
  const [box, { width, height: whole }] = useSize<SVGSVGElement>();
  const narrow = width < NARROW;
  const height = narrow ? whole - STRIP : whole;
  const title = useId();
  const [filling, fill] = useState(focus);
  const outline = plan[filling].outline;
  const fresh = useMemo(
    () =>
      filling === focus
        ? wholeIfNear(outline, plan.room.outline, width, height, MARGIN[filling])
        : fitted(outline, width, height, MARGIN[filling]),
    [outline, plan.room.outline, width, height, filling, focus],
  );
  const lens = useLens(box, { width, height }, (pixel) =>
    onPick?.(snapped(view.back(pixel), NOWHERE, 0, solution.nudge).point),
  );
  function fitTo(part: "room" | "shower") {
    lens.whole();
    fill(part);
  }
  function put(handle: Handle, to: XY) {
    if (handle.place) handle.place(to);
    else onMove((old) => handle.move?.(old, to) ?? old);
  }

  const live = lens.through(fresh);
  const { drag, guides, on } = useGrip<Handle>(box, live, solution.nudge, {
    put,
    onHold,
    onMoved,
    onTouched,
  });
  const view = drag?.view ?? live;
  useHidden(box, hidden);
  usePointed(box);

  function nudge(handle: Handle, event: KeyboardEvent) {
    const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[
      event.key
    ];
    if (!way) return;
    event.preventDefault();
    const step = solution.nudge * (event.shiftKey ? 10 : 1);
    const to: XY = [handle.at[0] + (way[0] ?? 0) * step, handle.at[1] + (way[1] ?? 0) * step];
    if (handle.nudge) onMove((old) => handle.nudge?.(old, to) ?? old);
    else put(handle, to);
  }

  const ends = solution.section
    ? within(view.at(solution.section.start), view.at(solution.section.end), width, height)
    : null;
  const { room_sides: lengths } = solution.drawing;
  const taken: Box[] = [
    ...boxesOf(marksOf(view, findings, null)),
    ...handles.map(({ at }): Box => [...view.at(at), HANDLE, HANDLE]),
    ...(ends && !ground ? lettersOf(ends).map((at): Box => [...at, LETTER, LETTER]) : []),
  ];
  // Where there is no floor yet, what is said of it names places by the walls near them.
  const near = filling === "shower" && !solution.surface ? besideShower(plan) : null;
  const walls =
    (filling === "room" || near) && labelled
      ? sideLabels(
          (near ?? edges(plan.room.outline)).map((edge, i) => ({
            edge,
            text: near ? `wall ${i + 1}` : `wall ${i + 1} · ${lengths[i] ?? ""}`,
            short: near ? `${i + 1}` : lengths[i],
            offset: near ? 44 : 26,
          })),
          plan.room.outline,
          view,
          taken,
        ).filter(({ box: [x, y, half, tall] }) => {
          // What the chart's border would cut says nothing.
          return x > half && x < width - half && y > tall && y < height - tall;
        })
      : [];
  const lines = caption(plan, solution, ground !== undefined, narrow);
  const ready = width > 0 && height > 0;
  const lower = ends?.toSorted((a, b) => b[1] - a[1])[0];
  // The section's lower letter may stand where the caption would: it then goes to the other side.
  const aside =
    !ground &&
    !narrow &&
    lower !== undefined &&
    lower[1] > height - 2 * LETTER_OUT &&
    lower[0] < CAPTION &&
    lower[0] < width - CAPTION;
  const captioned: CaptionProps | null = (ground ? solution.survey.floor : solution.surface)
    ? {
        lines: narrow ? [lines.join(" · ")] : lines,
        at: [aside ? width - 12 : 12, narrow ? whole - 6 : height - 10],
        end: aside,
        wide: narrow ? width : undefined,
      }
    : null;
  return (
    <>
      <svg
        ref={box}
        className="size-full block select-none"
        style={{ touchAction: lens.zoom > 1 ? "none" : "pan-y" }}
        aria-labelledby={title}
        role="group"
        data-zoom={lens.zoom.toFixed(2)}
      >
        <title id={title}>
          Plan of the room. Handles can be reached with Tab and moved with the arrow keys; Shift
          moves ten times as far.
        </title>
        {ready && (
          <>
            <Room plan={plan} solution={solution} view={view} labels={walls} />
            <Fade room={plan.room.outline.map(view.at)} width={width} height={height} />
            {ground ? (
              <>
                {ground(view)}
                <path
                  d={path(plan.shower.outline.map(view.at))}
                  fill="none"
                  stroke="var(--sounding)"
                  strokeWidth={2}
                  strokeDasharray="8 5"
                />
              </>
            ) : (
              <Floor
                plan={plan}
                solution={solution}
                view={view}
                measured={filling === "shower" && labelled}
                labelled={labelled}
                taken={taken}
                within={filling === "room"}
              >
                {overlay?.(view)}
              </Floor>
            )}
            {!ground && <OverFloor plan={plan} solution={solution} view={view} />}
            {captioned && <Caption {...captioned} />}
            {over?.(view)}
            {picked && <Picked at={view.at(picked)} />}
            <Dimensions
              plan={plan}
              solution={solution}
              picked={picked}
              view={view}
              size={{ width, height }}
              taken={[
                ...walls.map(({ box }) => box),
                ...(captioned ? [captionBox(captioned)] : []),
              ]}
            />
            {ends && !ground && <SectionLine ends={ends} />}
            <FindingMarks view={view} findings={findings} />
            {drag && guides.x !== undefined && (
              <path
                d={path(
                  [
                    [view.at([guides.x, 0])[0], 0],
                    [view.at([guides.x, 0])[0], height],
                  ],
                  false,
                )}
                stroke="var(--hazard)"
                strokeDasharray="4 3"
              />
            )}
            {drag && guides.y !== undefined && (
              <path
                d={path(
                  [
                    [0, view.at([0, guides.y])[1]],
                    [width, view.at([0, guides.y])[1]],
                  ],
                  false,
                )}
                stroke="var(--hazard)"
                strokeDasharray="4 3"
              />
            )}
            {handles.map((handle) => (
              <HandleMark
                key={handle.key}
                handle={handle}
                at={view.at(handle.at)}
                held={drag?.key === handle.key}
                onKeyDown={(event) => nudge(handle, event)}
                {...on(handle)}
              />
            ))}
          </>
        )}
      </svg>
      <div className="absolute left-2 top-2 flex flex-col gap-1">
        {(
          [
            ["Closer", Plus, lens.closer, false],
            ["Farther", Minus, lens.farther, lens.zoom === 1],
            ["The whole drawing", Maximize, lens.whole, lens.zoom === 1],
            ["The shower alone", Focus, () => fitTo("shower"), filling === "shower"],
            ["The whole room", House, () => fitTo("room"), filling === "room"],
          ] as const
        ).map(([label, Icon, act, off]) => (
          <button
            key={label}
            type="button"
            className={`btn btn-square size-11 bg-base-100 border-base-300 ${off ? "hidden" : ""}`}
            aria-label={label}
            title={label}
            onClick={act}
          >
            <Icon size={18} aria-hidden />
          </button>
        ))}
        <Legend chart={box} hidden={hidden} onHide={(next) => show({ hidden: next })} />
      </div>
    </>
  );
}

const NOWHERE: SnapTo = { xs: [], ys: [], walls: [] };

function Picked({ at: [x, y] }: { at: XY }) {
  return (
    <g aria-hidden stroke="var(--hazard)" strokeWidth={2} fill="none">
      <circle cx={x} cy={y} r={11} />
      <path
        d={`M${x - 18},${y}H${x - 5}M${x + 5},${y}H${x + 18}M${x},${y - 18}V${y - 5}M${x},${y + 5}V${y + 18}`}
      />
    </g>
  );
}
