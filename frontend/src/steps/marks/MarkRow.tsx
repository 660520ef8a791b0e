import { Check } from "lucide-react";
import type { Mark } from "../../api/generated/solution";
import { useScreen } from "../../job/context";
import { useLights, useLit } from "../../job/shown";
import { notedAt, toggled } from "./noted";

/** One mark: ticked with a thumb; where it is, the measure that shows a slip, and what the staff
 * reads on it. */
export function MarkRow({ mark }: { mark: Mark }) {
  const { plan, change } = useScreen();
  const lights = useLights();
  const lit = useLit(mark.name);
  const done = notedAt(plan, mark) >= 0;
  const line = mark.places.length > 1;
  return (
    <li
      className={`py-1.5 flex gap-3 ${lit ? "bg-info/15" : ""}`}
      data-mark={mark.name}
      {...lights(mark.name)}
    >
      <button
        type="button"
        aria-pressed={done}
        aria-label={`${mark.name}: marked`}
        className={`btn size-12 shrink-0 p-0 ${done ? "btn-success" : "btn-outline"}`}
        onClick={() => change((old) => toggled(old, mark))}
      >
        {done && <Check size={24} aria-hidden />}
      </button>
      <div className={`flex-1 min-w-0 leading-snug ${done ? "opacity-75" : ""}`}>
        <span className={`font-semibold ${done ? "line-through" : ""}`}>{mark.name}</span>
        {mark.text && <span className="text-sm"> {mark.text}</span>}
        {mark.places.map((place, i) => (
          <span key={String(place.at)} className="block">
            {line && <span className="text-sm">{"AB"[i]} </span>}
            {place.from_text}
            {place.check_text && <span className="block text-sm">check: {place.check_text}</span>}
          </span>
        ))}
      </div>
      {(mark.cut_text || mark.staff_text) && (
        <span className="text-right shrink-0 leading-tight">
          {mark.cut_text && (
            <>
              <span className="block text-sm">cut to</span>
              <strong className="block text-xl">{mark.cut_text}</strong>
            </>
          )}
          {mark.staff_text && (
            <>
              <span className="block text-sm">staff</span>
              <span className={mark.cut_text ? "" : "text-xl font-bold"}>{mark.staff_text}</span>
            </>
          )}
        </span>
      )}
    </li>
  );
}
