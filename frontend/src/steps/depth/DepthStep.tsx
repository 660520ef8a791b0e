import { HardHat } from "lucide-react";
import { useScreen } from "../../job/context";
import { FigureRows } from "../../ui/FigureRows";
import { LayerList } from "../../ui/LayerList";
import { FormerFields } from "./FormerFields";

/** What lies under the tile, how deep that goes and where the depth can come from. */
export function DepthStep() {
  const { solution } = useScreen();
  return (
    <div className="space-y-5">
      <FormerFields />
      <Ways />
      <LayerList title="Shower, from the tile down" of="shower" />
      <LayerList
        title="Room, from the tile down"
        of="room"
        total={solution?.figures.room_level.text}
      />
      <Levels />
      <Cautions />
    </div>
  );
}

function Ways() {
  const { solution, apply } = useScreen();
  if (!solution?.ways.length) return null;
  return (
    <section>
      <h2 className="font-semibold mb-1">Where the depth can come from</h2>
      <ul className="divide-y divide-base-300 border-y border-base-300">
        {solution.ways.map((way) => (
          <li key={way.code} className="py-2" data-way={way.code}>
            <div className="flex gap-2 items-baseline">
              <h3 className="font-semibold flex-1 leading-tight">{way.title}</h3>
              <span
                className={`text-sm font-bold whitespace-nowrap ${way.enough ? "text-success" : way.enough === false ? "text-error" : "text-warning"}`}
              >
                {way.gives_text}
                {way.enough === false && ", too little"}
              </span>
            </div>
            <p className="text-sm mt-0.5">
              {way.costs} <strong className="font-semibold">Watch: </strong>
              {way.forbids}
            </p>
            {way.changes.length > 0 && (
              <button
                type="button"
                className="btn btn-outline border-base-content/30 h-11 mt-1"
                onClick={() => apply(way.changes)}
              >
                Put it into the plan
              </button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

function Levels() {
  const { solution } = useScreen();
  if (!solution) return null;
  const { room_level, entry_level, drain_level, base_level } = solution.figures;
  return (
    <section>
      <h2 className="font-semibold mb-1">Levels, from the deck or slab top</h2>
      <FigureRows figures={[room_level, entry_level, drain_level, base_level]} />
    </section>
  );
}

function Cautions() {
  const { solution } = useScreen();
  return (
    <section className="border-2 border-warning rounded-box p-3">
      <h2 className="font-bold flex items-center gap-2 mb-1">
        <HardHat size={20} aria-hidden /> Before anything is cut
      </h2>
      <ul className="space-y-1 list-disc pl-5">
        {solution?.cautions.map((caution) => (
          <li key={caution.code}>{caution.text}</li>
        ))}
      </ul>
    </section>
  );
}
