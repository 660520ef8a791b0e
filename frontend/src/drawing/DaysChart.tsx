import type { DaysResult, TaskSlot } from "../api/generated/solution";
import { useLights, useLit } from "../job/shown";
import { useSize } from "./view";

const DAY = 24 * 60;
/** Of the drawing, pixels: the axis, the least height of a row, and what the names take at most. */
const [AXIS, ROW, NAMES, MARGIN] = [44, 22, 260, 12];
/** Up to so many days the hours are told too. */
const SHORT = 2;
/** Days that are narrower, pixels, share their names. */
const NARROW = 92;

interface Props {
  result: DaysResult;
  /** Minutes from midnight before the first day; null where no first day is agreed. */
  now: number | null;
}

/** The schedule: a bar for hands, a lighter one for waits, hold points as gates, and now. */
export function DaysChart({ result, now }: Props) {
  const [box, { width, height }] = useSize<HTMLDivElement>();
  const first = Math.floor(Math.min(0, ...result.tasks.map((slot) => slot.start)) / DAY);
  const last = Math.max(...result.tasks.map((slot) => Math.ceil(slot.free / DAY)), first + 1);
  const left = Math.min(NAMES, width * 0.36);
  const row = Math.max(ROW, Math.min(34, (height - AXIS - MARGIN) / result.tasks.length));
  const tall = AXIS + row * result.tasks.length + MARGIN;
  const scale = (width - left - MARGIN) / ((last - first) * DAY);
  const x = (moment: number) => left + (moment - first * DAY) * scale;
  const days = result.days.filter((day) => day.number >= first && day.number < last);
  const every = Math.max(1, Math.ceil(NARROW / (DAY * scale)));
  return (
    <div
      ref={box}
      className="size-full overflow-y-auto"
      data-part="schedule"
      // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls is reached by keyboard
      tabIndex={0}
    >
      {width > 0 && (
        <svg width={width} height={tall} className="block" role="img" aria-label="Schedule">
          {days.map((day) => (
            <g key={day.number}>
              <rect
                x={x(day.number * DAY)}
                y={AXIS}
                width={DAY * scale}
                height={tall - AXIS}
                fill={day.worked ? "var(--color-base-200)" : "var(--color-base-300)"}
                opacity={0.55}
              />
              {day.worked && (
                <rect
                  x={x(day.number * DAY + result.begin)}
                  y={AXIS}
                  width={(result.end - result.begin) * scale}
                  height={tall - AXIS}
                  fill="var(--color-base-100)"
                />
              )}
              {(day.number - first) % every === 0 && (
                <text
                  x={x(day.number * DAY) + 3}
                  y={18}
                  fontSize={14}
                  fontWeight={600}
                  fill="var(--ink)"
                >
                  {day.text}
                </text>
              )}
              {last - first <= SHORT &&
                [6, 9, 12, 15, 18].map((hour) => (
                  <text
                    key={hour}
                    x={x(day.number * DAY + hour * 60)}
                    y={36}
                    fontSize={14}
                    textAnchor="middle"
                    fill="var(--ink)"
                  >
                    {hour}
                  </text>
                ))}
            </g>
          ))}
          {result.tasks.map((slot, i) => (
            <Row
              key={slot.task}
              slot={slot}
              x={x}
              y={AXIS + i * row}
              row={row}
              left={left}
              width={width}
            />
          ))}
          {now !== null && now > first * DAY && now < last * DAY && (
            <g stroke="var(--hazard)" data-part="now">
              <path d={`M${x(now)},${AXIS - 8}V${tall}`} strokeWidth={2} />
              <text
                x={x(now)}
                y={AXIS - 10}
                textAnchor="middle"
                fontSize={14}
                fill="var(--hazard)"
                stroke="none"
              >
                now
              </text>
            </g>
          )}
        </svg>
      )}
    </div>
  );
}

interface RowProps {
  slot: TaskSlot;
  x: (moment: number) => number;
  y: number;
  row: number;
  left: number;
  width: number;
}

function Row({ slot, x, y, row, left, width }: RowProps) {
  const lights = useLights();
  const lit = useLit(slot.task);
  const middle = y + row / 2;
  const bar = Math.min(row - 8, 18);
  const ink =
    slot.state === "done"
      ? "var(--color-success)"
      : slot.critical
        ? "var(--ink)"
        : "var(--color-info)";
  const names = Math.floor((left - 20) / 7.2);
  const name = slot.name.length > names ? `${slot.name.slice(0, names - 1)}…` : slot.name;
  return (
    <g data-bar={slot.task} {...lights(slot.task)}>
      <rect
        x={0}
        y={y}
        width={width}
        height={row}
        fill="var(--color-info)"
        opacity={lit ? 0.15 : 0}
      />
      <path d={`M0,${y + row}H${width}`} stroke="var(--color-base-300)" />
      <text
        x={10}
        y={middle}
        dy="0.35em"
        fontSize={14}
        fill="var(--ink)"
        fontWeight={slot.hold ? 700 : 400}
      >
        {name}
      </text>
      <rect
        x={x(slot.end)}
        y={middle - bar / 4}
        width={Math.max(x(slot.free) - x(slot.end), 0)}
        height={bar / 2}
        fill={ink}
        opacity={0.3}
      />
      <rect
        x={x(slot.start)}
        y={middle - bar / 2}
        width={Math.max(x(slot.end) - x(slot.start), 3)}
        height={bar}
        rx={2}
        data-part="hands"
        fill={ink}
        opacity={slot.state === "begun" ? 0.65 : 1}
      />
      {slot.hold && (
        <path
          d={`M${x(slot.end) + 4},${y + 2}v${row - 4}m4,0v${4 - row}`}
          stroke={slot.state === "done" ? "var(--color-success)" : "var(--hazard)"}
          strokeWidth={2.5}
          fill="none"
          data-part="gate"
        />
      )}
    </g>
  );
}
