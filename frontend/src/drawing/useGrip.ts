import { type PointerEvent, type RefObject, useEffect, useRef, useState } from "react";
import { type SnapTo, snapped, type View, type XY } from "./view";

/** How long a finger rests on a handle before it moves it, ms: a swipe that begins there scrolls. */
const HOLD = 350;
/** A finger that goes farther before that, in pixels, is a swipe. */
const STILL = 8;
/** How near a line a place snaps to it, pixels. */
const NEAR = 9;

/** What can be taken hold of on a drawing. */
interface Held {
  key: string;
  label: string;
  at: XY;
  snap: SnapTo;
}

interface Drag {
  key: string;
  /** While something is dragged the scale stands still under the finger. */
  view: View;
  /** How far beside the thing it was taken hold of, pixels. */
  beside: XY;
  from: XY;
  to: XY;
}

interface Told<H> {
  put: (handle: H, to: XY) => void;
  /** A drag begins, ends, or is taken back because the finger scrolled. */
  onHold: (held: "begun" | "ended" | "taken back") => void;
  onMoved: (handle: H, from: XY, to: XY) => void;
  /** A finger touched a handle and did not hold it. */
  onTouched: (handle: H) => void;
}

/** Drag the handles of a drawing: a mouse at once, a finger once it has rested on one. */
export function useGrip<H extends Held>(
  box: RefObject<SVGSVGElement | null>,
  live: View,
  nudge: number,
  { put, onHold, onMoved, onTouched }: Told<H>,
) {
  const [drag, setDrag] = useState<Drag | null>(null);
  const [guides, setGuides] = useState<{ x?: number; y?: number }>({});
  // What the listeners read between two renders.
  const held = useRef<Drag | null>(null);
  const resting = useRef<{ timer: ReturnType<typeof setTimeout>; at: XY } | null>(null);

  useEffect(() => {
    const element = box.current;
    // The browser asks once, before it scrolls, and takes a passive listener for a yes.
    function touched(event: TouchEvent) {
      if (held.current && event.cancelable) event.preventDefault();
    }
    element?.addEventListener("touchmove", touched, { passive: false });
    return () => {
      clearTimeout(resting.current?.timer);
      element?.removeEventListener("touchmove", touched);
    };
  }, [box]);

  function rested() {
    clearTimeout(resting.current?.timer);
    const was = resting.current;
    resting.current = null;
    return was !== null;
  }

  function hold(next: Drag | null) {
    held.current = next;
    setDrag(next);
    if (!next) setGuides({});
  }

  const on = (handle: H) => ({
    onPointerDown(event: PointerEvent) {
      if (event.button !== 0 || held.current) return;
      const frame = box.current?.getBoundingClientRect();
      const at = live.at(handle.at);
      const beside: XY = [
        event.clientX - (frame?.left ?? 0) - at[0],
        event.clientY - (frame?.top ?? 0) - at[1],
      ];
      const { currentTarget, pointerId } = event;
      const begin = () => {
        resting.current = null;
        currentTarget.setPointerCapture(pointerId);
        hold({ key: handle.key, view: live, beside, from: handle.at, to: handle.at });
        onHold("begun");
      };
      if (event.pointerType === "mouse") {
        begin();
        return;
      }
      rested();
      const timer = setTimeout(() => {
        begin();
        navigator.vibrate?.(12);
      }, HOLD);
      resting.current = { timer, at: [event.clientX, event.clientY] };
    },
    onPointerMove(event: PointerEvent) {
      const start = resting.current?.at;
      if (start && Math.hypot(event.clientX - start[0], event.clientY - start[1]) > STILL) rested();
      const now = held.current;
      if (now?.key !== handle.key) return;
      const frame = box.current?.getBoundingClientRect();
      const place = now.view.back([
        event.clientX - (frame?.left ?? 0) - now.beside[0],
        event.clientY - (frame?.top ?? 0) - now.beside[1],
      ]);
      const found = snapped(place, handle.snap, NEAR / now.view.scale, nudge);
      now.to = found.point;
      setGuides(found.guides);
      put(handle, found.point);
    },
    onPointerUp() {
      if (rested()) onTouched(handle);
      const now = held.current;
      if (now?.key !== handle.key) return;
      hold(null);
      onHold("ended");
      if (now.to[0] !== now.from[0] || now.to[1] !== now.from[1]) onMoved(handle, now.from, now.to);
    },
    onPointerCancel() {
      rested();
      if (held.current?.key !== handle.key) return;
      hold(null);
      onHold("taken back");
    },
  });
  return { drag, guides, on };
}
