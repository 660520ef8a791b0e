import type { Plan } from "../api/client";
import type { Mark, MarksResult, Pin } from "../api/generated/solution";
import { useLights, useLit, useShown } from "../job/shown";
import { notedAt } from "../steps/marks/noted";
import { along, type Box, clearance, halfOf, short } from "./clear";
import { HaloText } from "./HaloText";
import { Light } from "./Light";
import { besideShower, SideText, sideLabels } from "./sides";
import { edges, middleOf, path, type View, type XY } from "./view";

const PIN: Record<Pin["kind"], string> = {
  rim: "var(--hazard)",
  fold: "var(--sounding)",
  edge: "var(--entry)",
  field: "var(--ink)",
};

const LINE: Partial<Record<Mark["kind"], { ink: string; dash?: string }>> = {
  "centre line": { ink: "var(--ink)", dash: "14 4 3 4" },
  entry: { ink: "var(--entry)" },
  "saw line": { ink: "var(--hazard)", dash: "10 5" },
  cleat: { ink: "var(--joist)" },
  membrane: { ink: "var(--sounding)", dash: "3 4" },
};

/** Half of a pin's dot, pixels, and the size of its number. */
const [DOT, NUMBER] = [5, 14];

/** Pins that stand farther apart, pixels, carry their numbers. */
const NUMBERED = 80;

/** Where a pin's figures may stand: over it, under it, beside it. */
function beside(text: string, size?: number): XY[] {
  const half = halfOf(text, size);
  const side = half + DOT + 5;
  const up = DOT + 14;
  return [
    [0, -up],
    [0, up],
    [side, 0],
    [-side, 0],
    [half, -up],
    [-half, -up],
    [half, up],
    [-half, up],
  ];
}

interface Props {
  plan: Plan;
  result: MarksResult;
  /** The group whose marks are drawn in full; the others are pale. */
  open: string | null;
  view: View;
}

/** What is still to be marked, what was marked and holds no more, and the walls by their names. */
export function Marks({ plan, result, open, view }: Props) {
  const left = result.groups.flatMap((group) =>
    group.marks.filter((mark) => notedAt(plan, mark) < 0),
  );
  return (
    <g aria-hidden data-part="marks">
      <WallNames plan={plan} view={view} pins={open === "pin"} />
      {open !== "pin" && <CornerNames outline={plan.room.outline} view={view} />}
      {left
        .filter((mark) => mark.kind !== "pin")
        .map((mark) => (
          <Line key={mark.name} mark={mark} open={mark.kind === open} view={view} />
        ))}
      {open === "pin" ? (
        <Pins plan={plan} result={result} left={left} view={view} />
      ) : (
        result.pins.pins.map((pin) => (
          <circle
            key={pin.number}
            cx={view.at([pin.x, pin.y])[0]}
            cy={view.at([pin.x, pin.y])[1]}
            r={2}
            fill="var(--ink)"
            opacity={0.35}
          />
        ))
      )}
      {result.stale.map(({ noted }, i) => (
        <Gone key={i} name={`was ${noted.name}`} places={noted.places} view={view} />
      ))}
    </g>
  );
}

/** The walls by their names, each beside what of it runs along the shower. */
function WallNames({ plan, view, pins }: { plan: Plan; view: View; pins: boolean }) {
  const outline = plan.room.outline;
  const beside = besideShower(plan);
  const sides = edges(outline).map((wall, i) => {
    // Figures of pins stand at the wall, the section's letters beyond them: the name goes between
    // the letters, or closer to a wall without figures.
    const [near, far] = beside[i] as [XY, XY];
    const part: [XY, XY] = pins ? [near, middleOf([near, far])] : wall;
    return { edge: part, offset: pins ? 44 : 24, text: `wall ${i + 1}`, short: `${i + 1}` };
  });
  return sideLabels(sides, outline, view, []).map((label) => (
    <SideText key={label.side} label={label} />
  ));
}

/** How far off the corner its name stands, pixels. */
const OFF = 16;

/** The corners of the room by their names: beside it, and of an inner corner in it. */
function CornerNames({ outline, view }: { outline: XY[]; view: View }) {
  const places = outline.map(view.at);
  const turns = places.map(([x, y], i) => {
    const [px, py] = places.at(i - 1) as XY;
    const [nx, ny] = places[(i + 1) % places.length] as XY;
    return (x - px) * (ny - y) - (y - py) * (nx - x);
  });
  const way = Math.sign(turns.reduce((sum, turn) => sum + Math.sign(turn), 0));
  return places.map(([x, y], i) => {
    const [px, py] = places.at(i - 1) as XY;
    const [nx, ny] = places[(i + 1) % places.length] as XY;
    const inner = Math.sign(turns[i] as number) !== way;
    const [long, other] = [Math.hypot(x - px, y - py), Math.hypot(x - nx, y - ny)];
    const right = (x - px) / long + (x - nx) / other > 0 ? 1 : -1;
    const down = (y - py) / long + (y - ny) / other > 0 ? 1 : -1;
    return (
      <HaloText
        key={i}
        at={[x + right * OFF, y + (inner ? down : -down) * OFF]}
        anchor={right > 0 ? "start" : "end"}
        ink="var(--ink)"
        size={14}
        bold={false}
      >
        corner {i + 1}
      </HaloText>
    );
  });
}

/** A line or a place that is marked; while it is pointed at, with the measures that check it. */
function Line({ mark, open, view }: { mark: Mark; open: boolean; view: View }) {
  const lights = useLights();
  const lit = useLit(mark.name);
  const strong = open || lit;
  const style = LINE[mark.kind] ?? { ink: "var(--ink)" };
  const ends = mark.places.map((place) => view.at(place.at));
  return (
    <g opacity={strong ? 1 : 0.3} data-line={mark.name} {...lights(mark.name)}>
      {ends.length > 1 && (
        <>
          <path d={path(ends, false)} fill="none" stroke="transparent" strokeWidth={16} />
          <path
            d={path(ends, false)}
            fill="none"
            stroke={style.ink}
            strokeWidth={strong ? 3 : 1.5}
            strokeDasharray={style.dash}
          />
        </>
      )}
      {strong &&
        mark.places.map((place, i) => {
          const at = ends[i] as XY;
          return (
            <g key={String(place.at)}>
              <Light at={at} on={lit} />
              {lit && place.check_to && (
                <path
                  d={path([at, view.at(place.check_to)], false)}
                  stroke="var(--hazard)"
                  strokeWidth={1.5}
                  strokeDasharray="2 4"
                />
              )}
              <circle
                cx={at[0]}
                cy={at[1]}
                r={4}
                fill="var(--paper)"
                stroke={style.ink}
                strokeWidth={2}
              />
              {ends.length > 1 && (
                <HaloText at={[at[0], at[1] - 16]} ink={style.ink} size={14}>
                  {lit ? "AB"[i] : ""}
                </HaloText>
              )}
            </g>
          );
        })}
    </g>
  );
}

/** Something that was marked and holds no more: crossed out. */
function Gone({ name, places, view }: { name: string; places: XY[]; view: View }) {
  const lit = useLit(name);
  const ends = places.map(view.at);
  return (
    <g stroke="var(--hazard)" strokeWidth={lit ? 3 : 2} opacity={lit ? 1 : 0.8} data-part="gone">
      {ends.length > 1 && <path d={path(ends, false)} strokeDasharray="2 6" />}
      {ends.map(([x, y]) => (
        <path key={`${x},${y}`} d={`M${x - 6},${y - 6}l12,12M${x - 6},${y + 6}l12,-12`} />
      ))}
    </g>
  );
}

interface PinsProps extends Omit<Props, "open"> {
  left: Mark[];
}

/** Screed pins with what they are cut to and, where there is room, their numbers; and the lines of
 * the check card. */
function Pins({ plan, result, left, view }: PinsProps) {
  const lights = useLights();
  const lit = useShown((shown) => shown.lit);
  const names = new Set(left.map((mark) => mark.name));
  const nameOf = (pin: Pin) => `pin ${pin.number}`;
  const at = (pin: Pin) => view.at([pin.x, pin.y]);
  const isLit = (pin: Pin) => lit === nameOf(pin);
  // The pin that is pointed at is served first.
  const pins = result.pins.pins
    .filter((pin) => names.has(nameOf(pin)))
    .sort((a, b) => Number(isLit(b)) - Number(isLit(a)));
  const walls = edges(plan.shower.outline);
  const place = clearance([
    ...pins.map((pin): Box => [...at(pin), DOT, DOT]),
    ...walls.flatMap(([a, b]) => along(view.at(a), view.at(b))),
  ]);
  const heights = pins.map((pin) => place(at(pin), short(pin.text), beside(short(pin.text))));
  // Numbers would be taken for heights where pins stand close together.
  const apart = plan.setting_out.pin_spacing * view.scale > NUMBERED;
  const numbers = pins.map((pin) =>
    apart || isLit(pin)
      ? place(at(pin), String(pin.number), beside(String(pin.number), NUMBER), NUMBER)
      : null,
  );
  return (
    <g data-part="pins">
      <g stroke="var(--caution)" strokeWidth={1.6} strokeDasharray="2 5">
        {result.pins.lines.map((line) => (
          <path key={line.name} d={path([view.at(line.start), view.at(line.end)], false)} />
        ))}
      </g>
      {pins.map((pin, i) => {
        const [x, y] = at(pin);
        const own = isLit(pin);
        const height = heights[i] ?? (own ? ([x, y - DOT - 14] as XY) : null);
        const number = numbers[i];
        return (
          <g key={pin.number} data-pin={pin.number} {...lights(nameOf(pin))}>
            <Light at={[x, y]} on={own} />
            <circle cx={x} cy={y} r={4.5} fill={PIN[pin.kind]} stroke="var(--paper)" />
            {height && (
              <HaloText at={height} ink={PIN[pin.kind]} size={17}>
                {short(pin.text)}
              </HaloText>
            )}
            {number && (
              <HaloText at={number} ink="var(--ink)" size={NUMBER} bold={false}>
                {pin.number}
              </HaloText>
            )}
          </g>
        );
      })}
    </g>
  );
}
