import { useEffect, useRef, useState } from "react";

export type XY = [number, number];

/** Width and height of an element, in CSS pixels, as it changes. */
export function useSize<T extends Element>() {
  const ref = useRef<T>(null);
  const [size, setSize] = useState({ width: 0, height: 0 });
  useEffect(() => {
    const element = ref.current;
    if (!element) return;
    const watcher = new ResizeObserver(([entry]) => {
      if (entry) setSize({ width: entry.contentRect.width, height: entry.contentRect.height });
    });
    watcher.observe(element);
    return () => watcher.disconnect();
  }, []);
  return [ref, size] as const;
}

/** How plan millimetres lie on the screen: y turns round, scale is the same both ways. */
export interface View {
  scale: number;
  at: (point: XY) => XY;
  back: (pixel: XY) => XY;
}

/** Share of its scale that a part gives up so that the whole is seen. */
const CLOSE = 0.6;
/** A part is not drawn narrower than this for the sake of the whole, pixels. */
const LEAST = 200;

export function fitted(points: XY[], width: number, height: number, margin: number): View {
  const xs = points.map((p) => p[0]);
  const ys = points.map((p) => p[1]);
  const [left, right, bottom, top] = [
    Math.min(...xs),
    Math.max(...xs),
    Math.min(...ys),
    Math.max(...ys),
  ];
  const scale = Math.max(
    Math.min((width - 2 * margin) / (right - left), (height - 2 * margin) / (top - bottom)),
    0.01,
  );
  const x0 = width / 2 - ((left + right) / 2) * scale;
  const y0 = height / 2 + ((bottom + top) / 2) * scale;
  return {
    scale,
    at: ([x, y]) => [x0 + x * scale, y0 - y * scale],
    back: ([px, py]) => [(px - x0) / scale, (y0 - py) / scale],
  };
}

/** The view that fills the chart with one outline, or shows all of another that holds it where that
 * costs little of the scale: nothing is then cut through at the chart's edge. */
export function wholeIfNear(
  part: XY[],
  whole: XY[],
  width: number,
  height: number,
  margin: number,
): View {
  const near = fitted(part, width, height, margin);
  const all = fitted(whole, width, height, margin);
  const xs = part.map((p) => p[0]);
  const across = (Math.max(...xs) - Math.min(...xs)) * all.scale;
  return all.scale > near.scale * CLOSE && across > LEAST ? all : near;
}

export const path = (points: XY[], closed = true) =>
  points.length
    ? `M${points.map(([x, y]) => `${x.toFixed(2)},${y.toFixed(2)}`).join("L")}${closed ? "Z" : ""}`
    : "";

/** The mean of some places. */
export const middleOf = (points: XY[]): XY => {
  const mean = (axis: 0 | 1) =>
    points.reduce((sum, p) => sum + p[axis], 0) / Math.max(points.length, 1);
  return [mean(0), mean(1)];
};

/** The area of an outline, below 0 where it runs clockwise. */
export const area = (outline: XY[]) =>
  edges(outline).reduce((sum, [a, b]) => sum + a[0] * b[1] - b[0] * a[1], 0) / 2;

/** Whether a place lies in an outline. */
export const holds = (outline: XY[], [x, y]: XY) =>
  edges(outline).filter(
    ([a, b]) => a[1] > y !== b[1] > y && x < a[0] + ((y - a[1]) * (b[0] - a[0])) / (b[1] - a[1]),
  ).length %
    2 ===
  1;

/** Snap a place to walls and centre lines, else to the unit that is shown on site. */
export interface SnapTo {
  xs: number[];
  ys: number[];
  walls: [XY, XY][];
}

export function snapped(point: XY, to: SnapTo, reach: number, step: number) {
  const near = (value: number, lines: number[]) => {
    const best = lines.reduce<number | null>(
      (found, line) =>
        Math.abs(line - value) < reach &&
        (found === null || Math.abs(line - value) < Math.abs(found - value))
          ? line
          : found,
      null,
    );
    return best;
  };
  const x = near(point[0], to.xs);
  const y = near(point[1], to.ys);
  if (x === null && y === null) {
    for (const [a, b] of to.walls) {
      const length2 = (b[0] - a[0]) ** 2 + (b[1] - a[1]) ** 2;
      const share =
        ((point[0] - a[0]) * (b[0] - a[0]) + (point[1] - a[1]) * (b[1] - a[1])) / length2;
      if (share < 0 || share > 1) continue;
      const foot: XY = [a[0] + share * (b[0] - a[0]), a[1] + share * (b[1] - a[1])];
      if (Math.hypot(foot[0] - point[0], foot[1] - point[1]) < reach) {
        return { point: foot, guides: {} };
      }
    }
  }
  const whole = (value: number) => Math.round(value / step) * step;
  return {
    point: [x ?? whole(point[0]), y ?? whole(point[1])] as XY,
    guides: { x: x ?? undefined, y: y ?? undefined },
  };
}

export const edges = (outline: XY[]): [XY, XY][] =>
  outline.map((point, i) => [point, outline[(i + 1) % outline.length] as XY]);
