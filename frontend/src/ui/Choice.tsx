import { useId } from "react";
import { useScreen } from "../job/context";

interface Props<Value extends string> {
  label: string;
  value: Value;
  options: { value: Value; label: string }[];
  onChange: (value: Value) => void;
  /** JSON pointer of a choice that tells what is there: it may be assumed. */
  path?: string;
}

/** A few options side by side, one of them chosen. */
export function Choice<Value extends string>(props: Props<Value>) {
  const { label, value, options, onChange, path } = props;
  const { plan, confirm } = useScreen();
  // Two of the same label may stand on one page.
  const group = useId();
  const assumed = path !== undefined && plan.assumed.includes(path);
  return (
    <fieldset
      data-assumed={assumed || undefined}
      title={assumed ? "Assumed: choose what is there, or confirm it" : undefined}
    >
      <legend className="text-sm mb-1">{label}</legend>
      <div
        className={`join w-full ${assumed ? "outline-2 outline-dashed outline-warning rounded-field italic" : ""}`}
      >
        {options.map((option) => (
          <input
            key={option.value}
            type="radio"
            name={group}
            aria-label={option.label}
            className="btn join-item flex-1 h-11 min-h-11 text-base font-medium px-2 checked:bg-info! checked:text-info-content!"
            data-field={option.value === value ? path : undefined}
            checked={option.value === value}
            onChange={() => onChange(option.value)}
            // Chosen again as it stands, it is known all the same.
            onClick={() => assumed && option.value === value && confirm((of) => of === path)}
          />
        ))}
      </div>
    </fieldset>
  );
}
