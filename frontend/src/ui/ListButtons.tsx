import { Plus, Trash2 } from "lucide-react";
import type { ReactNode } from "react";
import type { Addition } from "../api/client";
import { useScreen } from "../job/context";

interface AddProps {
  what: Addition;
  /** The shower's side that it belongs to. */
  side?: number;
  children: ReactNode;
  outlined?: boolean;
  icon?: ReactNode;
}

/** Puts a part into the plan in a common size, to be typed over. */
export function AddButton({ what, side, children, outlined, icon }: AddProps) {
  const { edit } = useScreen();
  return (
    <button
      type="button"
      className={`btn h-11 font-medium ${outlined ? "" : "btn-ghost px-2"}`}
      onClick={() => void edit({ act: "add", what, side })}
    >
      {icon ?? (!outlined && <Plus size={18} aria-hidden />)} {children}
    </button>
  );
}

interface RemoveProps {
  label: string;
  /** The item of a list of the plan. */
  path: string;
  disabled?: boolean;
  className?: string;
}

/** Takes an item out of a list of the plan. */
export function RemoveButton({ label, path, disabled, className = "" }: RemoveProps) {
  const { edit } = useScreen();
  return (
    <button
      type="button"
      className={`btn btn-ghost btn-square size-11 ${className}`}
      aria-label={label}
      disabled={disabled}
      onClick={() => void edit({ act: "remove", path })}
    >
      <Trash2 size={18} aria-hidden />
    </button>
  );
}
