import { Check } from "lucide-react";
import type { Plan } from "../api/generated/plan";

type User = Plan["users"][number];

const USERS: { user: User; label: string }[] = [
  { user: "walks", label: "Walks" },
  { user: "frame", label: "With a frame" },
  { user: "carer", label: "Carer beside" },
  { user: "chair", label: "In a chair" },
  { user: "powered", label: "Powered chair" },
];

/** Whether somebody of them sits in a chair. */
export const sits = (users: User[]) => users.includes("chair") || users.includes("powered");

interface Props {
  users: User[];
  onChange: (users: User[]) => void;
}

/** Who will use the room: any of them. */
export function UserChoice({ users, onChange }: Props) {
  return (
    <div className="flex flex-wrap gap-1.5">
      {USERS.map(({ user, label }) => {
        const on = users.includes(user);
        return (
          <button
            key={user}
            type="button"
            aria-pressed={on}
            className={`btn h-11 text-base font-medium px-3 ${on ? "btn-info" : ""}`}
            onClick={() =>
              onChange(on ? users.filter((other) => other !== user) : [...users, user])
            }
          >
            {on && <Check size={18} aria-hidden />}
            {label}
          </button>
        );
      })}
    </div>
  );
}
