import { Plus, Ruler, Trash2 } from "lucide-react";
import type { Tape } from "../../api/generated/plan";
import { edges } from "../../drawing/view";
import { useScreen } from "../../job/context";
import { MeasureField } from "../../ui/MeasureField";

/** The room as it was taped: walls, diagonals, what does not fit, and the outline that fits best. */
export function TapeFields() {
  const { plan, set, apply, solution } = useScreen();
  const tape = plan.survey.tape;
  const result = solution?.survey.tape;
  const path = "/survey/tape";

  if (!tape) {
    return (
      <button
        type="button"
        className="btn h-11"
        onClick={() => set(path, fromOutline(plan.room.outline))}
      >
        <Ruler size={20} aria-hidden /> Measure the walls by tape
      </button>
    );
  }
  const corners = tape.walls.map((_, i) => i);
  return (
    <fieldset className="space-y-2 border-l-2 border-info pl-3">
      <legend className="font-semibold mb-1">Walls by tape, in order</legend>
      <ul className="space-y-1.5">
        {tape.walls.map((wall, i) => (
          <li key={i} className="grid grid-cols-[1.2rem_1fr_6.2rem_2.75rem] gap-1.5 items-center">
            <span className="font-semibold">{i + 1}</span>
            <MeasureField
              compact
              label={`Tape of wall ${i + 1}`}
              path={`${path}/walls/${i}/length`}
            />
            <select
              className="select h-11 text-base px-2"
              aria-label={`Corner after wall ${i + 1}`}
              value={`${wall.turn}${wall.square ? "" : "-free"}`}
              onChange={(event) => {
                const [turn, free] = event.currentTarget.value.split("-");
                set(`${path}/walls/${i}`, { ...wall, turn, square: !free });
              }}
            >
              <option value="left">corner</option>
              <option value="right">inner</option>
              <option value="left-free">not square</option>
              <option value="right-free">inner, not square</option>
            </select>
            <button
              type="button"
              className="btn btn-ghost btn-square size-11"
              aria-label={`Remove wall ${i + 1}`}
              disabled={tape.walls.length < 4}
              onClick={() =>
                set(path, { walls: tape.walls.toSpliced(i, 1), diagonals: [] } satisfies Tape)
              }
            >
              <Trash2 size={18} aria-hidden />
            </button>
          </li>
        ))}
      </ul>
      <button
        type="button"
        className="btn btn-ghost h-11 px-2 font-medium"
        onClick={() =>
          set(`${path}/walls`, [...tape.walls, { length: 1000, turn: "left", square: false }])
        }
      >
        <Plus size={18} aria-hidden /> Add a wall
      </button>
      <ul className="space-y-1.5">
        {tape.diagonals.map((diagonal, i) => (
          <li key={i} className="grid grid-cols-[4rem_4rem_1fr_2.75rem] gap-1.5 items-center">
            {(["first", "last"] as const).map((end) => (
              <select
                key={end}
                className="select h-11 text-base px-2"
                aria-label={`Diagonal ${i + 1}, ${end} corner`}
                value={diagonal[end]}
                onChange={(event) =>
                  set(`${path}/diagonals/${i}/${end}`, Number(event.currentTarget.value))
                }
              >
                {corners.map((corner) => (
                  <option key={corner} value={corner}>
                    {corner + 1}
                  </option>
                ))}
              </select>
            ))}
            <MeasureField
              compact
              label={`Tape of diagonal ${i + 1}`}
              path={`${path}/diagonals/${i}/length`}
            />
            <button
              type="button"
              className="btn btn-ghost btn-square size-11"
              aria-label={`Remove diagonal ${i + 1}`}
              onClick={() => set(`${path}/diagonals`, tape.diagonals.toSpliced(i, 1))}
            >
              <Trash2 size={18} aria-hidden />
            </button>
          </li>
        ))}
      </ul>
      {tape.walls.length > 3 && (
        <button
          type="button"
          className="btn btn-ghost h-11 px-2 font-medium"
          onClick={() => {
            const [a, , b] = result?.outline ?? plan.room.outline;
            const length = a && b ? Math.hypot(b[0] - a[0], b[1] - a[1]) : 1000;
            set(`${path}/diagonals`, [...tape.diagonals, { first: 0, last: 2, length }]);
          }}
        >
          <Plus size={18} aria-hidden /> Add a diagonal
        </button>
      )}
      {result && (
        <div className="space-y-1">
          <h3 className="font-semibold">Tape less outline</h3>
          <ul className="grid grid-cols-2 gap-x-4">
            {result.misfits.map((misfit) => (
              <li
                key={misfit.name}
                className={`flex ${misfit.suspect ? "text-error font-bold" : ""}`}
              >
                <span className="flex-1">{misfit.name}</span>
                {misfit.text}
              </li>
            ))}
          </ul>
          <h3 className="font-semibold">Corners</h3>
          <ul>
            {result.corners.map((corner) => (
              <li key={corner.number}>
                {corner.number}: {corner.angle_text}, {corner.text}
              </li>
            ))}
          </ul>
          <div className="flex flex-wrap gap-2">
            <button
              type="button"
              className="btn btn-info h-11"
              disabled={result.changes.length === 0}
              onClick={() => apply(result.changes)}
            >
              Use this outline
            </button>
            <button type="button" className="btn h-11" onClick={() => set(path, null)}>
              Put the tape away
            </button>
          </div>
        </div>
      )}
    </fieldset>
  );
}

/** Tapes to begin with: the outline's own sides, anticlockwise, to be typed over. */
function fromOutline(outline: [number, number][]): Tape {
  const turn = (i: number) => {
    const n = outline.length;
    const [a, b, c] = [i, (i + 1) % n, (i + 2) % n].map((k) => outline[k] as [number, number]) as [
      [number, number],
      [number, number],
      [number, number],
    ];
    return (b[0] - a[0]) * (c[1] - b[1]) - (b[1] - a[1]) * (c[0] - b[0]) >= 0 ? "left" : "right";
  };
  return {
    walls: edges(outline).map(([a, b], i) => ({
      length: Math.hypot(b[0] - a[0], b[1] - a[1]),
      turn: turn(i),
      square: true,
    })),
    diagonals: [],
  };
}
