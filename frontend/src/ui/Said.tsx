import { CircleAlert, CircleCheck, CircleDashed } from "lucide-react";

/** Whether what was read or tested holds. */
export type State = "holds" | "fails" | "open";

const MARKS = {
  holds: [CircleCheck, "text-success"],
  fails: [CircleAlert, "text-error"],
  open: [CircleDashed, "text-warning"],
} as const;

interface Props {
  /** Null where nothing is judged. */
  state: State | null;
  text: string;
  large?: boolean;
}

/** A verdict with its mark. */
export function Said({ state, text, large }: Props) {
  const [Icon, ink] = state ? MARKS[state] : [null, ""];
  return (
    <span
      className={`flex items-center gap-1.5 ${large ? "text-xl font-bold" : "font-semibold"} ${ink}`}
    >
      {Icon && <Icon size={large ? 24 : 18} aria-hidden className="shrink-0" />} {text}
    </span>
  );
}
