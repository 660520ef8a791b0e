import { type RefObject, useLayoutEffect } from "react";
import { useShownStore } from "../job/shown";

/** While one thing on a chart is pointed at, in a list or there, it stands out and the rest fades. */
export function usePointed(chart: RefObject<SVGSVGElement | null>) {
  const store = useShownStore();
  // Every time the chart is drawn, too: what is new on it has to be marked like the rest.
  useLayoutEffect(() => {
    const mark = ({ lit }: { lit: string | null }) => {
      const there = chart.current;
      if (!there) return;
      let found = false;
      for (const one of there.querySelectorAll<SVGElement>("[data-lights]")) {
        const strong = one.dataset.lights === lit;
        one.toggleAttribute("data-strong", strong);
        found ||= strong;
      }
      there.toggleAttribute("data-pointing", found);
    };
    mark(store.getState());
    return store.subscribe(mark);
  });
}
