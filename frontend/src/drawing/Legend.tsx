import { Eye, X } from "lucide-react";
import { type ReactNode, type RefObject, useLayoutEffect, useState } from "react";

interface Layer {
  /** As what is drawn of it says in `data-part`. */
  id: string;
  label: string;
  sample: ReactNode;
}

const line = (stroke: string, dashes?: string, width = 2) => (
  <path d="M1,8H31" stroke={stroke} strokeWidth={width} strokeDasharray={dashes} />
);
const area = (fill: string, opacity = 1) => (
  <rect x={1} y={2} width={30} height={12} fill={fill} opacity={opacity} />
);
const word = (text: string, fill = "var(--sounding)") => (
  <text x={16} y={13} fontSize={14} textAnchor="middle" fontWeight={600} fill={fill}>
    {text}
  </text>
);

/** Everything a chart may show, from the ground up, each as it is drawn. */
const LAYERS: readonly Layer[] = [
  { id: "joists", label: "Joists", sample: area("var(--joist)", 0.4) },
  {
    id: "fixtures",
    label: "Fixtures",
    sample: (
      <rect
        x={5}
        y={2}
        width={22}
        height={12}
        rx={3}
        fill="var(--paper)"
        stroke="var(--land-edge)"
      />
    ),
  },
  {
    id: "tints",
    label: "Depth of the floor: darker is deeper",
    sample: (
      <>
        <rect x={1} y={2} width={15} height={12} fill="var(--shallow)" />
        <rect x={16} y={2} width={15} height={12} fill="var(--deep)" />
      </>
    ),
  },
  { id: "contours", label: "Lines of equal depth", sample: line("var(--contour)", undefined, 1) },
  {
    id: "folds",
    label: "Folds: dashed gather water, dotted part it, red are cut",
    sample: (
      <>
        <path d="M1,4H31" stroke="var(--sounding)" strokeWidth={1.3} strokeDasharray="7 4" />
        <path d="M1,9H31" stroke="var(--sounding)" strokeWidth={1.3} strokeDasharray="1.5 4" />
        <path d="M1,14H31" stroke="var(--hazard)" strokeWidth={2.4} strokeDasharray="14 4 3 4" />
      </>
    ),
  },
  { id: "soundings", label: "Depths", sample: word("12") },
  { id: "falls", label: "Falls of the planes", sample: word("1:50") },
  {
    id: "findings",
    label: "What to fix or check, by its number",
    sample: (
      <>
        <circle cx={16} cy={8} r={8} fill="var(--hazard)" />
        {word("1", "var(--paper)")}
      </>
    ),
  },
  { id: "section", label: "Line of the section", sample: line("var(--ink)", "14 4 2 4", 1.2) },
  { id: "places", label: "Drain places that keep all falls", sample: area("var(--entry)", 0.42) },
  {
    id: "drain-map",
    label: "Drain places clear of the floor",
    sample: (
      <>
        <rect x={1} y={2} width={15} height={12} fill="var(--entry)" opacity={0.32} />
        <path d="M18,14L30,2M18,8L24,2M24,14L30,8" stroke="var(--hazard)" strokeWidth={1.3} />
      </>
    ),
  },
  {
    id: "under",
    label: "Under the floor: timbers, the waste (red, dashed: does not fit), other pipes",
    sample: (
      <>
        <rect x={1} y={1} width={30} height={4} fill="var(--joist)" opacity={0.5} />
        <path d="M1,8H15" stroke="var(--entry)" strokeWidth={2.2} />
        <path d="M17,8H31" stroke="var(--hazard)" strokeWidth={2.2} strokeDasharray="6 3" />
        <path d="M1,13H31" stroke="var(--hazard)" strokeWidth={2} strokeDasharray="10 3 2 3" />
      </>
    ),
  },
  {
    id: "spaces",
    label: "Spaces people need: green is enough, red dashed is not",
    sample: (
      <>
        <circle cx={9} cy={8} r={6} fill="none" stroke="var(--entry)" strokeWidth={1.6} />
        <circle
          cx={23}
          cy={8}
          r={6}
          fill="none"
          stroke="var(--hazard)"
          strokeWidth={2.5}
          strokeDasharray="5 3"
        />
      </>
    ),
  },
  {
    id: "ways",
    label: "Way from the door to the shower",
    sample: line("var(--entry)", "1 5", 2.5),
  },
  {
    id: "runoff",
    label: "How the water runs: blue to the drain, red elsewhere",
    sample: (
      <>
        <path d="M1,5H31" stroke="var(--sounding)" strokeWidth={2} strokeDasharray="7 5" />
        <path d="M1,11H31" stroke="var(--hazard)" strokeWidth={2} strokeDasharray="7 5" />
      </>
    ),
  },
  {
    id: "marks",
    label: "What is marked: centre lines, entry, saw lines, membrane's edge, pins",
    sample: (
      <>
        <path d="M1,2H31" stroke="var(--ink)" strokeWidth={1.5} strokeDasharray="14 4 3 4" />
        <path d="M1,6H31" stroke="var(--entry)" strokeWidth={1.5} />
        <path d="M1,10H31" stroke="var(--hazard)" strokeWidth={1.5} strokeDasharray="10 5" />
        <path d="M1,14H24" stroke="var(--sounding)" strokeWidth={1.5} strokeDasharray="3 4" />
        <circle cx={29} cy={13} r={2} fill="var(--ink)" />
      </>
    ),
  },
  {
    id: "built",
    label: "Off the plan: red too high, blue too low",
    sample: (
      <>
        <rect x={1} y={2} width={15} height={12} fill="var(--hazard)" opacity={0.6} />
        <rect x={16} y={2} width={15} height={12} fill="var(--sounding)" opacity={0.6} />
      </>
    ),
  },
  {
    id: "walls",
    label: "Studs behind the finished walls: dashed",
    sample: (
      <>
        {area("var(--ink)")}
        <path d="M1,8H31" stroke="var(--paper)" strokeWidth={2} strokeDasharray="8 3" />
      </>
    ),
  },
  {
    id: "membrane",
    label: "Membrane: red is to lay, grey is laid, dashed its edge",
    sample: (
      <>
        <rect x={1} y={2} width={15} height={8} fill="var(--hazard)" opacity={0.45} />
        <rect x={16} y={2} width={15} height={8} fill="var(--ink)" opacity={0.18} />
        <path d="M1,14H31" stroke="var(--sounding)" strokeWidth={2} strokeDasharray="9 5" />
      </>
    ),
  },
  {
    id: "heating",
    label: "Heating: the cable, dashed to its sensor",
    sample: (
      <>
        <path d="M1,5H31" stroke="var(--hazard)" strokeWidth={2.4} />
        <path d="M1,12H31" stroke="var(--ink)" strokeWidth={2} strokeDasharray="3 4" />
      </>
    ),
  },
  {
    id: "tile",
    label: "Tile: hatched is cut, red is a sliver",
    sample: (
      <>
        <path d="M1,2H10V14H1Z" stroke="var(--ink)" strokeWidth={0.9} />
        <path d="M12,2H21V14H12ZM12,14L21,5M12,8L18,2" stroke="var(--ink)" strokeWidth={0.9} />
        <path d="M24,2H30V14H24ZM24,8L30,14M24,2L30,8" stroke="var(--hazard)" strokeWidth={1.6} />
      </>
    ),
  },
];

interface Props {
  chart: RefObject<SVGSVGElement | null>;
  hidden: readonly string[];
  onHide: (hidden: string[]) => void;
}

/** Names what the chart shows, with its pattern, and lets each be hidden. */
export function Legend({ chart, hidden, onHide }: Props) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <button
        type="button"
        className={`btn btn-square size-11 border-base-300 ${hidden.length > 0 ? "btn-info" : "bg-base-100"}`}
        aria-label={`What the chart shows${hidden.length > 0 ? `: ${hidden.length} hidden` : ""}`}
        title="What the chart shows"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
      >
        {open ? <X size={18} aria-hidden /> : <Eye size={18} aria-hidden />}
      </button>
      {open && (
        <Listed chart={chart} hidden={hidden} onHide={onHide} close={() => setOpen(false)} />
      )}
    </>
  );
}

function Listed({ chart, hidden, onHide, close }: Props & { close: () => void }) {
  const [there, setThere] = useState<readonly Layer[]>([]);
  // What is drawn is what is listed: each step draws its own.
  useLayoutEffect(() => {
    const drawn = LAYERS.filter(({ id }) => {
      const part = chart.current?.querySelector<SVGElement>(`[data-part="${id}"]`);
      // What a map stands in place of is not shown.
      return part?.firstElementChild && (part.style.display !== "none" || hidden.includes(id));
    });
    setThere((old) => (String(old.map(idOf)) === String(drawn.map(idOf)) ? old : drawn));
  });
  return (
    <fieldset
      className="absolute left-13 top-0 z-20 w-68 max-w-[70vw] max-h-[min(26rem,48vh)] overflow-y-auto rounded-box border border-base-300 bg-base-100 px-2 py-1"
      data-legend
      onKeyDown={(event) => event.key === "Escape" && close()}
    >
      <legend className="sr-only">What the chart shows</legend>
      {there.map(({ id, label, sample }) => {
        const shown = !hidden.includes(id);
        return (
          <label key={id} className="flex items-center gap-2.5 min-h-11 text-sm leading-tight">
            <input
              type="checkbox"
              className="checkbox checkbox-sm"
              checked={shown}
              onChange={() =>
                onHide(shown ? [...hidden, id] : hidden.filter((other) => other !== id))
              }
            />
            <svg
              width={32}
              height={16}
              aria-hidden
              fill="none"
              className={`shrink-0 ${shown ? "" : "opacity-40"}`}
            >
              {sample}
            </svg>
            <span>{label}</span>
          </label>
        );
      })}
    </fieldset>
  );
}

const idOf = ({ id }: Layer) => id;

/** Maps of the floor: they stand in place of its tints, not over them. */
const MAPS = [
  ["drain-map", '[data-part="drain-map"]'],
  ["places", '[data-part="places"]'],
  ["built", '[data-built-marks]:not([data-built-marks="built"])'],
] as const;

/** Keeps what is hidden out of sight on a chart, whatever is drawn anew. */
export function useHidden(chart: Props["chart"], hidden: readonly string[]) {
  useLayoutEffect(() => {
    const there = chart.current;
    if (!there) return;
    const map = MAPS.some(([id, css]) => !hidden.includes(id) && there.querySelector(`${css} > *`));
    const out = map ? [...hidden, "tints"] : hidden;
    for (const one of there.querySelectorAll<SVGElement>("[data-part]"))
      one.style.display = out.includes(one.dataset.part ?? "") ? "none" : "";
  });
}
