import type { Change, DrainMap } from "../../api/generated/solution";

/** What putting the drain at one of the map's places changes. */
export function changesFor(map: DrainMap, place: number): Change[] {
  const line = map.lines[map.line[place] ?? -1];
  if (line) {
    return [
      { path: "/shower/drain/start", value: line.start },
      { path: "/shower/drain/end", value: line.end },
      { path: "/shower/drain/outlet", value: map.outlet[place] },
    ];
  }
  return [{ path: "/shower/drain/centre", value: [map.x[place], map.y[place]] }];
}
