import type { Figure } from "../api/generated/solution";
import { useScreen } from "../job/context";

/** Figures in rows, each of which tells why when it is pressed. */
export function FigureRows({ figures }: { figures: Figure[] }) {
  const { why } = useScreen();
  return (
    <ul className="divide-y divide-base-300 border-y border-base-300">
      {figures.map((figure) => (
        <li key={figure.label}>
          <button
            type="button"
            className="flex w-full min-h-11 items-center gap-3 text-left hover:bg-base-200 px-1"
            onClick={() => why(figure)}
          >
            <span className="flex-1">{figure.label}</span>
            <span className="font-semibold">{figure.text}</span>
            <span className="text-sm underline decoration-dotted underline-offset-4">why?</span>
          </button>
        </li>
      ))}
    </ul>
  );
}
