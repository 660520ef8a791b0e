import { Grid3x3 } from "lucide-react";
import { useRef } from "react";
import { DrainPlaces } from "../../drawing/DrainPlaces";
import { UnderFloor } from "../../drawing/UnderFloor";
import { useScreen } from "../../job/context";
import { useShow, useShown } from "../../job/shown";
import type { Step } from "../step";
import { underHandles } from "./handles";
import { changesFor } from "./taking";
import { UnderStep } from "./UnderStep";

export const under: Step = {
  id: "under",
  phase: "Plan",
  label: "Under the floor",
  icon: Grid3x3,
  fields: ["/waste", "/services", "/floor", "/floor/signed", "/water/pipe"],
  part: "drain_map",
  later: true,
  says: (solution) => {
    const { structure, waste } = solution;
    if (!structure || !waste) return null;
    if (structure.unsigned) return "stop";
    return waste.missing.length || structure.notes.length ? "caution" : "clear";
  },
  Panel: UnderStep,
  useChart: (plan, solution) => {
    const { apply, picked, pick } = useScreen();
    const show = useShow();
    const mapped = useShown((shown) => shown.map);
    const looked = useShown((shown) => shown.place);
    const fresh = solution?.drain_map ?? null;
    const kept = useRef(fresh);
    if (fresh) kept.current = fresh;
    const map = fresh ?? (solution?.complete ? kept.current : null);
    return {
      focus: "room",
      handles: underHandles(plan, solution, !mapped),
      bare: true,
      picked: mapped ? null : picked,
      onPick: mapped ? undefined : pick,
      over: (view) =>
        solution && (
          <>
            {mapped && map && (
              <DrainPlaces
                map={map}
                stale={fresh === null}
                view={view}
                place={looked}
                look={(place) => show({ place })}
                take={(place) => {
                  apply(changesFor(map, place));
                  show({ place: null });
                }}
              />
            )}
            <UnderFloor solution={solution} stack={plan.waste.stack} view={view} />
          </>
        ),
    };
  },
};
