interface Props<Value extends string> {
  label: string;
  value: Value;
  options: { value: Value; label: string }[];
  onChange: (value: Value) => void;
}

/** A few options side by side, one of them chosen. */
export function Choice<Value extends string>({ label, value, options, onChange }: Props<Value>) {
  return (
    <fieldset>
      <legend className="text-sm mb-1">{label}</legend>
      <div className="join w-full">
        {options.map((option) => (
          <input
            key={option.value}
            type="radio"
            name={label}
            aria-label={option.label}
            className="btn join-item flex-1 h-11 min-h-11 text-base font-medium px-2 checked:bg-info! checked:text-info-content!"
            checked={option.value === value}
            onChange={() => onChange(option.value)}
          />
        ))}
      </div>
    </fieldset>
  );
}
