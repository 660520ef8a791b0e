import { useEffect, useRef, useState } from "react";
import { api, type Plan } from "../../api/client";
import type { FloorResult } from "../../api/generated/solution";
import { type Handle, snapLines } from "../../drawing/handles";
import type { XY } from "../../drawing/view";

interface Edge {
  ends: [XY, XY];
  at: XY;
  text: string;
}

/** A straightedge on the floor: where it gapes most at first, then wherever it is dragged. */
export function useStraightedge(plan: Plan, floor: FloorResult | null) {
  const [laid, setLaid] = useState<[XY, XY] | null>(null);
  const [measured, setMeasured] = useState<Edge | null>(null);
  const asking = useRef(0);
  useEffect(() => {
    if (!laid || !floor) {
      setMeasured(null);
      return;
    }
    asking.current += 1;
    const turn = asking.current;
    api
      .straightedge(plan, laid[0], laid[1])
      .then((answer) => {
        if (turn === asking.current) setMeasured({ ends: laid, at: answer.at, text: answer.text });
      })
      .catch(() => setMeasured(null));
  }, [laid, plan, floor]);
  if (!floor) return { handles: [], edge: null };
  const ends: [XY, XY] = laid ?? [floor.edge.start, floor.edge.end];
  const handles: Handle[] = ([0, 1] as const).map((end) => ({
    key: `edge-${end}`,
    label: `${end === 0 ? "First" : "Other"} end of the straightedge`,
    at: ends[end],
    kind: "corner",
    snap: snapLines(plan, "room"),
    place: (to) => setLaid(end === 0 ? [to, ends[1]] : [ends[0], to]),
  }));
  const edge: Edge =
    laid && measured
      ? { ...measured, ends: laid }
      : { ends, at: floor.edge.at, text: floor.edge.text };
  return { handles, edge };
}
