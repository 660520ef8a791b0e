import { PanelCutDrawing } from "../../drawing/PanelCutDrawing";
import { useScreen } from "../../job/context";

/** Slope panels: how many, how they are cut, which has the notch for the outlet. */
export function Panels() {
  const { solution } = useScreen();
  const panels = solution?.panels;
  if (!panels) return null;
  return (
    <section aria-label="Panels to cut">
      <p className="text-lg font-bold" data-panels={panels.count}>
        {panels.verdict}
      </p>
      <ul className="divide-y divide-base-300 border-y border-base-300">
        {panels.sides.map((side) => (
          <li key={side.name} className="py-2">
            <h3 className="font-semibold capitalize">{side.name}</h3>
            <p>{side.text}</p>
            <PanelCutDrawing side={side} />
            <ul className="list-disc pl-5 text-sm space-y-0.5">
              {side.said.map((line) => (
                <li key={line}>{line}</li>
              ))}
            </ul>
          </li>
        ))}
      </ul>
    </section>
  );
}
