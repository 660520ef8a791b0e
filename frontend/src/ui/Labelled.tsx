import { type ReactNode, useId } from "react";

interface Props {
  label: string;
  error?: string;
  /** The field, by the id that its label and its note go by. */
  children: (id: string, note: string | undefined) => ReactNode;
}

/** A field under its label, with what is wrong with what was typed. */
export function Labelled({ label, error, children }: Props) {
  const id = useId();
  const note = `${id}-note`;
  return (
    <div className="flex-1 min-w-24">
      <label htmlFor={id} className="block text-sm leading-tight mb-1">
        {label}
      </label>
      {children(id, error ? note : undefined)}
      {error && (
        <p id={note} role="alert" className="text-sm mt-1 text-error font-semibold">
          {error}
        </p>
      )}
    </div>
  );
}
