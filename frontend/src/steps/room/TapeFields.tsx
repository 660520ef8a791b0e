import { Ruler } from "lucide-react";
import { useScreen } from "../../job/context";
import { AddButton, RemoveButton } from "../../ui/ListButtons";
import { MeasureField } from "../../ui/MeasureField";

/** The room as it was taped: walls, diagonals, what does not fit, and the outline that fits best. */
export function TapeFields() {
  const { plan, set, apply, solution } = useScreen();
  const tape = plan.survey.tape;
  const result = solution?.survey.tape;
  const path = "/survey/tape";

  if (!tape) {
    return (
      <AddButton what="tape" outlined icon={<Ruler size={20} aria-hidden />}>
        Measure the walls by tape
      </AddButton>
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
            <RemoveButton
              label={`Remove wall ${i + 1}`}
              path={`${path}/walls/${i}`}
              disabled={tape.walls.length < 4}
            />
          </li>
        ))}
      </ul>
      <AddButton what="taped wall">Add a wall</AddButton>
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
            <RemoveButton label={`Remove diagonal ${i + 1}`} path={`${path}/diagonals/${i}`} />
          </li>
        ))}
      </ul>
      {tape.walls.length > 3 && <AddButton what="diagonal">Add a diagonal</AddButton>}
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
