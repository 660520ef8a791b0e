import { pointer, select } from "d3-selection";
import { type ZoomBehavior, type ZoomTransform, zoom, zoomIdentity, zoomTransform } from "d3-zoom";
import { type RefObject, useEffect, useRef, useState } from "react";
import type { View, XY } from "./view";

const MOST = 12;
const STEP = 1.4;
const PAN = 60;
/** A press that moves by less, in pixels, is a touch and no drag. */
const STILL = 5;

const seenThrough = (view: View, lens: ZoomTransform): View => ({
  scale: view.scale * lens.k,
  at: (point) => lens.apply(view.at(point)),
  back: (pixel) => view.back(lens.invert(pixel)),
});

/** Whether a gesture moves the drawing: at its whole size one finger scrolls the page. */
function grips(this: Element, event: WheelEvent | MouseEvent | TouchEvent) {
  if ((event.target as Element).closest("[data-handle]")) return false;
  if ("touches" in event) return event.touches.length > 1 || zoomTransform(this).k > 1;
  return event.type === "wheel" || (!event.ctrlKey && event.button === 0);
}

/** Zoom and pan a drawing: by wheel, by two fingers, by dragging its ground, by buttons and keys. */
export function useLens(
  box: RefObject<SVGSVGElement | null>,
  { width, height }: { width: number; height: number },
  onTouch?: (pixel: XY) => void,
) {
  const [lens, setLens] = useState(zoomIdentity);
  const gestures = useRef<ZoomBehavior<SVGSVGElement, unknown>>(null);

  useEffect(() => {
    const element = box.current;
    if (!element) return;
    const chart = select(element);
    const made = zoom<SVGSVGElement, unknown>()
      .scaleExtent([1, MOST])
      .clickDistance(STILL)
      .touchable(true)
      .filter(grips)
      .on("zoom", (event: { transform: ZoomTransform }) => setLens(event.transform));
    gestures.current = made;
    // Two places may be touched one after the other.
    chart.call(made).on("dblclick.zoom", null);
    function key(event: KeyboardEvent) {
      const target = event.target as HTMLElement;
      if (event.ctrlKey || event.metaKey || target.closest("input, textarea, select, dialog"))
        return;
      if (event.key === "+" || event.key === "=") chart.call(made.scaleBy, STEP);
      else if (event.key === "-") chart.call(made.scaleBy, 1 / STEP);
      else if (event.key === "0") chart.call(made.transform, zoomIdentity);
      else if (!target.closest("[data-handle], [role=separator], section")) {
        const way = { ArrowLeft: [1, 0], ArrowRight: [-1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[
          event.key
        ];
        const by = PAN / zoomTransform(element as Element).k;
        if (way) chart.call(made.translateBy, (way[0] ?? 0) * by, (way[1] ?? 0) * by);
      }
    }
    window.addEventListener("keydown", key);
    return () => {
      chart.on(".zoom", null);
      window.removeEventListener("keydown", key);
    };
  }, [box]);

  useEffect(() => {
    const frame: [XY, XY] = [
      [0, 0],
      [width, height],
    ];
    gestures.current?.extent(frame).translateExtent(frame);
  }, [width, height]);

  useEffect(() => {
    const chart = select(box.current);
    // What a drag ends with is no touch: the gestures keep that press to themselves.
    chart.on("click", (event: MouseEvent) => {
      if (!(event.target as Element).closest("[data-handle]")) onTouch?.(pointer(event));
    });
    return () => {
      chart.on("click", null);
    };
  }, [box, onTouch]);

  const by = (factor: number) => {
    if (box.current && gestures.current) select(box.current).call(gestures.current.scaleBy, factor);
  };
  return {
    zoom: lens.k,
    through: (view: View) => (lens.k === 1 ? view : seenThrough(view, lens)),
    closer: () => by(STEP),
    farther: () => by(1 / STEP),
    whole: () => {
      if (box.current && gestures.current)
        select(box.current).call(gestures.current.transform, zoomIdentity);
    },
  };
}
