import { type PointerEvent, type RefObject, useEffect, useRef, useState } from "react";
import type { View, XY } from "./view";

interface Lens {
  zoom: number;
  pan: XY;
}

const WHOLE: Lens = { zoom: 1, pan: [0, 0] };
const MOST = 12;
const STEP = 1.4;
const PAN = 60;
/** A press that moves by less, in pixels, is a touch and no drag. */
const STILL = 5;

const seenThrough = (view: View, { zoom, pan }: Lens): View => ({
  scale: view.scale * zoom,
  at: (point) => {
    const [x, y] = view.at(point);
    return [x * zoom + pan[0], y * zoom + pan[1]];
  },
  back: ([x, y]) => view.back([(x - pan[0]) / zoom, (y - pan[1]) / zoom]),
});

/** The lens zoomed by a factor about a pixel; back at the whole drawing it is where it was. */
function zoomed(lens: Lens, factor: number, [x, y]: XY): Lens {
  const zoom = Math.min(MOST, Math.max(1, lens.zoom * factor));
  if (zoom === 1) return WHOLE;
  const by = zoom / lens.zoom;
  return { zoom, pan: [x - (x - lens.pan[0]) * by, y - (y - lens.pan[1]) * by] };
}

/** Zoom and pan a drawing: by wheel, by two fingers, by dragging its ground, by buttons and keys. */
export function useLens(
  box: RefObject<SVGSVGElement | null>,
  size: { width: number; height: number },
  onTouch?: (pixel: XY) => void,
) {
  const [lens, setLens] = useState(WHOLE);
  const fingers = useRef(new Map<number, XY>());
  const moved = useRef(0);
  const middle: XY = [size.width / 2, size.height / 2];
  const about = useRef(middle);
  about.current = middle;

  const pixel = (event: { clientX: number; clientY: number }): XY => {
    const frame = box.current?.getBoundingClientRect();
    return [event.clientX - (frame?.left ?? 0), event.clientY - (frame?.top ?? 0)];
  };

  useEffect(() => {
    const element = box.current;
    function wheel(event: WheelEvent) {
      event.preventDefault();
      const frame = element?.getBoundingClientRect();
      const at: XY = [event.clientX - (frame?.left ?? 0), event.clientY - (frame?.top ?? 0)];
      setLens((old) => zoomed(old, STEP ** (-event.deltaY / 100), at));
    }
    function key(event: KeyboardEvent) {
      const target = event.target as HTMLElement;
      if (event.ctrlKey || event.metaKey || target.closest("input, textarea, select, dialog"))
        return;
      if (event.key === "+" || event.key === "=") {
        setLens((old) => zoomed(old, STEP, about.current));
      } else if (event.key === "-") setLens((old) => zoomed(old, 1 / STEP, about.current));
      else if (event.key === "0") setLens(WHOLE);
      else if (!target.closest("[data-handle], [role=separator], section")) {
        const way = {
          ArrowLeft: [1, 0],
          ArrowRight: [-1, 0],
          ArrowUp: [0, 1],
          ArrowDown: [0, -1],
        }[event.key];
        if (!way) return;
        setLens((old) =>
          old.zoom === 1
            ? old
            : {
                ...old,
                pan: [old.pan[0] + (way[0] ?? 0) * PAN, old.pan[1] + (way[1] ?? 0) * PAN],
              },
        );
      }
    }
    element?.addEventListener("wheel", wheel, { passive: false });
    window.addEventListener("keydown", key);
    return () => {
      element?.removeEventListener("wheel", wheel);
      window.removeEventListener("keydown", key);
    };
  }, [box]);

  const ground = {
    onPointerDown(event: PointerEvent) {
      if ((event.target as Element).closest("[data-handle]")) return;
      event.currentTarget.setPointerCapture(event.pointerId);
      fingers.current.set(event.pointerId, pixel(event));
      moved.current = 0;
    },
    onPointerMove(event: PointerEvent) {
      const before = fingers.current.get(event.pointerId);
      if (!before) return;
      const now = pixel(event);
      const other = [...fingers.current].find(([id]) => id !== event.pointerId)?.[1];
      fingers.current.set(event.pointerId, now);
      moved.current += Math.hypot(now[0] - before[0], now[1] - before[1]);
      if (moved.current < STILL) return;
      if (other) {
        const apart = (a: XY) => Math.hypot(a[0] - other[0], a[1] - other[1]) || 1;
        const centre: XY = [(now[0] + other[0]) / 2, (now[1] + other[1]) / 2];
        setLens((old) => zoomed(old, apart(now) / apart(before), centre));
      } else {
        setLens((old) =>
          old.zoom === 1
            ? old
            : {
                ...old,
                pan: [old.pan[0] + now[0] - before[0], old.pan[1] + now[1] - before[1]],
              },
        );
      }
    },
    onPointerUp(event: PointerEvent) {
      if (fingers.current.delete(event.pointerId) && moved.current < STILL) onTouch?.(pixel(event));
    },
    onPointerCancel(event: PointerEvent) {
      fingers.current.delete(event.pointerId);
    },
  };
  return {
    zoom: lens.zoom,
    through: (view: View) => (lens.zoom === 1 ? view : seenThrough(view, lens)),
    ground,
    closer: () => setLens((old) => zoomed(old, STEP, middle)),
    farther: () => setLens((old) => zoomed(old, 1 / STEP, middle)),
    whole: () => setLens(WHOLE),
  };
}
