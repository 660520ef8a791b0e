import type { WallsResult } from "../../api/generated/solution";
import { useScreen } from "../../job/context";
import { Choice } from "../../ui/Choice";
import { FigureRows } from "../../ui/FigureRows";
import { LayerList } from "../../ui/LayerList";
import { AddButton } from "../../ui/ListButtons";
import { MeasureField } from "../../ui/MeasureField";
import { Notes } from "../../ui/Notes";
import { BuiltIn } from "./BuiltIn";
import { Elevations } from "./Elevations";

/** Where studs and finished walls are, and how the walls are framed and boarded. */
export function WallsStep() {
  const { plan, solution, edit, set } = useScreen();
  if (solution && !solution.complete) {
    return <p>The walls are worked out once the falls work.</p>;
  }
  const found = solution?.walls;
  const bare = plan.walls.shower.length + plan.walls.rest.length === 0;
  return (
    <div className="space-y-5">
      <Choice
        label="Room measured at"
        value={plan.walls.studs ? "studs" : "finished"}
        options={[
          { value: "finished", label: "Finished walls" },
          { value: "studs", label: "Studs" },
        ]}
        onChange={(at) => void edit({ act: "measured", at })}
      />
      {found ? <Verdict found={found} /> : <p aria-busy>Working…</p>}
      {bare ? (
        <AddButton what="wall layers" outlined>
          Add usual layers
        </AddButton>
      ) : (
        <>
          <LayerList
            title="Shower walls, from tile to studs"
            of="shower wall"
            total={found?.layers_texts[0]}
          />
          <LayerList
            title="Other walls, from face to studs"
            of="other wall"
            total={found?.layers_texts[1]}
          />
        </>
      )}
      {!bare && (
        <Choice
          label="Tray cut to"
          value={plan.walls.tray_to}
          options={[
            { value: "studs", label: "Studs" },
            { value: "boards", label: "Boards" },
          ]}
          onChange={(edge) => set("/walls/tray_to", edge)}
        />
      )}
      {found && <FigureRows figures={[...found.figures]} />}
      {found?.box && <Between box={found.box} />}
      {found && <Lines found={found} />}
      {found && <Elevations found={found} />}
      {found && <BuiltIn found={found} />}
      {found && <Notes title="Before the boards go on" notes={found.notes} />}
    </div>
  );
}

function Verdict({ found }: { found: WallsResult }) {
  const tone = found.given ? "border-info bg-info/10" : "border-warning bg-warning/10";
  return (
    <section aria-label="Two lines" className={`border-l-4 rounded-r-box p-3 ${tone}`}>
      <strong className="block text-lg leading-snug">{found.boards || found.said}</strong>
      {found.boards && <p className="font-semibold leading-snug">{found.said}</p>}
      {found.given
        ? "Cut the deck to the studs. Falls and clearances are at the finished walls."
        : "Until then studs and finished walls are one line."}
    </section>
  );
}

/** The room from stud to stud, typed as it is measured there. */
function Between({ box }: { box: NonNullable<WallsResult["box"]> }) {
  const { edit } = useScreen();
  return (
    <div className="fields items-end">
      {(["Room width at studs", "Room depth at studs"] as const).map((label, i) => {
        const side = box[i as 0 | 1];
        return (
          <MeasureField
            key={label}
            label={label}
            covers={[]}
            value={side.size}
            text={side.text}
            onCommit={(size) =>
              void edit({
                act: "stretch",
                which: "room",
                axis: i as 0 | 1,
                size,
                at: "studs",
              })
            }
          />
        );
      })}
    </div>
  );
}

function Lines({ found }: { found: WallsResult }) {
  return (
    <table className="w-full" aria-label="Walls">
      <thead>
        <tr className="text-left text-sm border-b border-base-300">
          <th className="font-semibold py-1">Wall</th>
          <th className="font-semibold">Finished</th>
          <th className="font-semibold">Studs</th>
          <th className="font-semibold">In front</th>
        </tr>
      </thead>
      <tbody>
        {found.lines.map((line) => (
          <tr key={line.number} className="border-b border-base-300">
            <td className="py-1.5">
              {line.number}
              {line.at_shower ? ", shower" : ""}
            </td>
            <td>{line.finished_text}</td>
            <td className="font-semibold">{line.studs_text}</td>
            <td>{line.depth_text || "not given"}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
