import { CircleCheck, Pause, Play, TriangleAlert } from "lucide-react";
import type { ReactNode } from "react";
import type { Capacity, WaterResult } from "../../api/generated/solution";
import { useScreen } from "../../job/context";
import { useLights, useLit, useShow, useShown } from "../../job/shown";
import { FigureRows } from "../../ui/FigureRows";
import { AddButton, RemoveButton } from "../../ui/ListButtons";
import { MeasureField } from "../../ui/MeasureField";
import { NameField } from "../../ui/NameField";
import { Trials } from "./Trials";

/** What the water does on the planned floor, and what the way out can take. */
export function WaterStep() {
  const { solution } = useScreen();
  const water = solution?.water;
  if (solution && !solution.complete) {
    return <p>The water is worked out once the falls can be.</p>;
  }
  if (!water) return <p aria-busy>Letting water run over the floor…</p>;
  return (
    <div className="space-y-5">
      <Verdict water={water} />
      <Supply water={water} />
      <Motion />
      <FigureRows figures={[water.drained, water.holds, water.overflow, water.flow]} />
      {solution?.cautions
        .filter((caution) => caution.code === "reserve" || caution.code === "flood_weight")
        .map((caution) => (
          <p
            key={caution.code}
            className="border-l-4 border-warning bg-warning/10 rounded-r-box p-3"
          >
            {caution.text}
          </p>
        ))}
      <Trials />
    </div>
  );
}

function Verdict({ water }: { water: WaterResult }) {
  const bad = !water.clear;
  const Icon = bad ? TriangleAlert : CircleCheck;
  return (
    <section
      aria-label="Water on the floor"
      className={`border-l-4 rounded-r-box p-3 ${bad ? "border-error bg-error/10" : "border-success bg-success/10"}`}
    >
      <h2 className="font-bold text-lg flex gap-2 items-center">
        <Icon size={22} className={bad ? "text-error" : "text-success"} aria-hidden />
        {water.verdict}
      </h2>
      <ul className="mt-1 leading-snug list-disc pl-5">
        {water.puddles.slice(0, 5).map((puddle, i) => (
          <li key={`${puddle.x},${puddle.y}`}>
            <Lit name={`puddle ${i}`}>puddle {puddle.text}</Lit>
          </li>
        ))}
        {water.level_text && <li>{water.level_text}</li>}
        <li>{water.crossing_text}</li>
        {water.gatherings.length > 0 && (
          <li>
            most comes over the rim here:{" "}
            {water.gatherings.map((gathering, i) => (
              <Lit key={`${gathering.x},${gathering.y}`} name={`gathering ${i}`}>
                {gathering.text}
              </Lit>
            ))}
          </li>
        )}
      </ul>
    </section>
  );
}

/** Words for a mark on the chart: both light up together. */
function Lit({ name, children }: { name: string; children: ReactNode }) {
  const lights = useLights();
  const lit = useLit(name);
  return (
    <span
      className={`font-semibold px-1 rounded-field ${lit ? "bg-info/30" : ""}`}
      {...lights(name)}
    >
      {children}
    </span>
  );
}

function Motion() {
  const show = useShow();
  const running = useShown((shown) => shown.running);
  return (
    <button
      type="button"
      className="btn h-11"
      aria-pressed={running}
      onClick={() => show({ running: !running })}
    >
      {running ? <Pause size={18} aria-hidden /> : <Play size={18} aria-hidden />}
      {running ? "Hold the water still" : "Let the water run"}
    </button>
  );
}

function Supply({ water }: { water: WaterResult }) {
  const { plan, set } = useScreen();
  const heads = plan.water.heads;
  const metric = plan.display.length.endsWith("m");
  const unit = metric ? "L/min" : "gal/min";
  return (
    <>
      <fieldset className="space-y-1.5">
        <legend className="font-semibold mb-1">
          Shower heads, {metric ? "litres" : "gallons"} a minute
        </legend>
        {heads.map((head, i) => (
          <div key={i} className="grid grid-cols-[1fr_6.5rem_2.75rem] gap-1.5 items-end">
            <NameField
              label={`Name of head ${i + 1}`}
              value={head.name}
              onCommit={(name) => set(`/water/heads/${i}/name`, name)}
            />
            <MeasureField
              compact
              label={`${head.name}, ${unit}`}
              kind="flow"
              path={`/water/heads/${i}/flow_l_min`}
            />
            <RemoveButton label={`Remove ${head.name}`} path={`/water/heads/${i}`} />
          </div>
        ))}
        <AddButton what="head">Add a head</AddButton>
      </fieldset>
      <fieldset className="space-y-2">
        <legend className="font-semibold mb-1">The way out</legend>
        <div className="fields">
          <MeasureField label="Pipe, inside" path="/water/pipe_diameter" />
          <MeasureField label="Fall of the pipe" kind="fall" path="/water/pipe_fall" />
        </div>
        {plan.water.drain_l_min == null ? (
          <AddButton what="drain figure" outlined>
            Enter the drain's own figure
          </AddButton>
        ) : (
          <div className="fields items-end">
            <MeasureField label={`Drain takes, ${unit}`} kind="flow" path="/water/drain_l_min" />
            <button
              type="button"
              className="btn h-11"
              onClick={() => set("/water/drain_l_min", null)}
            >
              Not known
            </button>
          </div>
        )}
        <ul className="divide-y divide-base-300 border-y border-base-300">
          {water.capacities.map((way) => (
            <CapacityRow key={way.name} way={way} />
          ))}
        </ul>
        <p className="text-sm">Pipe, trap and connection are for a licensed plumber.</p>
      </fieldset>
    </>
  );
}

function CapacityRow({ way }: { way: Capacity }) {
  const { why } = useScreen();
  return (
    <li>
      <button
        type="button"
        className="flex w-full min-h-11 items-center gap-3 text-left hover:bg-base-200 px-1"
        onClick={() => why({ label: way.name, text: way.text, working: way.working })}
      >
        <span className="flex-1">{way.name}</span>
        <span className={`font-semibold ${way.enough ? "" : "text-error"}`}>
          {way.text} · {way.enough ? "enough" : "too little"}
        </span>
        <span className="text-sm underline decoration-dotted underline-offset-4">why?</span>
      </button>
    </li>
  );
}
