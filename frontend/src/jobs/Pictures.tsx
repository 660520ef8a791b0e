import { type ReactNode, useId } from "react";
import type { Said } from "../api/client";

type Pictured = {
  [K in "ground" | "where" | "drain"]: readonly (readonly [
    NonNullable<Said[K]>,
    string,
    ReactNode,
  ])[];
};

/** What a choice of a new job looks like, drawn in a box of 44 × 32. */
const PICTURES: Pictured = {
  ground: [
    [
      "joists",
      "Boards on joists",
      <path key="j" d="M2 8H42V12H2ZM6 12V28H10V12M20 12V28H24V12M34 12V28H38V12" />,
    ],
    [
      "slab",
      "Concrete slab",
      <path key="s" d="M2 10H42V26H2ZM8 15h2M16 21h2M24 14h2M33 20h2M37 14h2M12 23h2M28 23h2" />,
    ],
  ],
  where: [
    ["back left", "Back left", <Corner key="l" d="M3 3H21V17H3Z" />],
    ["back right", "Back right", <Corner key="r" d="M23 3H41V17H23Z" />],
    ["back", "Whole back", <Corner key="b" d="M3 3H41V17H3Z" />],
  ],
  drain: [
    [
      "linear",
      "Channel",
      <path key="c" d="M2 2H42V30H2ZM5 5H39V9H5ZM12 26V14M22 26V14M32 26V14" />,
    ],
    [
      "point",
      "Point drain",
      <path
        key="p"
        d="M2 2H42V30H2ZM19 13H25V19H19ZM2 2L19 13M42 2L25 13M2 30L19 19M42 30L25 19"
      />,
    ],
  ],
};

interface Props<K extends keyof Pictured> {
  legend: string;
  of: K;
  value: Said[K];
  onChange: (value: Said[K]) => void;
}

/** One of a few, each by a small drawing. */
export function Pictures<K extends keyof Pictured>({ legend, of, value, onChange }: Props<K>) {
  const group = useId();
  const options = PICTURES[of];
  return (
    <fieldset>
      <legend className="font-semibold mb-1">{legend}</legend>
      <div className="flex gap-1.5">
        {options.map(([option, label, picture]) => (
          <label
            key={option}
            className={`btn h-auto flex-1 flex-col gap-0.5 py-1.5 px-1 text-sm font-medium has-focus-visible:outline-2 ${option === value ? "btn-info" : ""}`}
          >
            <input
              type="radio"
              name={group}
              className="sr-only"
              checked={option === value}
              onChange={() => onChange(option)}
            />
            <svg
              viewBox="0 0 44 32"
              width={52}
              height={38}
              aria-hidden
              fill="none"
              stroke="currentColor"
              strokeWidth={1.6}
            >
              {picture}
            </svg>
            {label}
          </label>
        ))}
      </div>
    </fieldset>
  );
}

/** The room from above with its door at the foot, and the shower in it. */
function Corner({ d }: { d: string }) {
  return (
    <>
      <path d="M26 30H2V2H42V30H36M26 30L36 25" />
      <path d={d} fill="currentColor" fillOpacity={0.35} />
    </>
  );
}
