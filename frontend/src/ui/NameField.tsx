import { useState } from "react";

interface Props {
  label: string;
  value: string;
  onCommit: (value: string) => void;
  className?: string;
}

/** A name; an empty one is put back to what it was. */
export function NameField({ label, value, onCommit, className = "" }: Props) {
  const [typed, setTyped] = useState<string | null>(null);
  function commit() {
    const next = typed?.trim().slice(0, 120);
    setTyped(null);
    if (next && next !== value) onCommit(next);
  }
  return (
    <input
      className={`input w-full h-11 text-base px-2.5 ${className}`}
      aria-label={label}
      value={typed ?? value}
      maxLength={120}
      onChange={(event) => setTyped(event.currentTarget.value)}
      onBlur={commit}
      onKeyDown={(event) => {
        if (event.key === "Enter") commit();
        else if (event.key === "Escape") setTyped(null);
      }}
    />
  );
}
