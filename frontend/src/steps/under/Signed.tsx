import { useId, useState } from "react";
import { useScreen } from "../../job/context";
import { NameField } from "../../ui/NameField";

/** Who signed for joists that are planned to be cut, and on which day: until both are entered it is a
 * stop. */
export function Signed() {
  const { plan, set } = useScreen();
  const day = useId();
  const { floor } = plan;
  const signed = floor.kind === "joists" ? (floor.signed ?? null) : null;
  const [typed, setTyped] = useState({ name: "", on: "" });
  if (floor.kind !== "joists" || !floor.others.some((other) => other.planned)) return null;
  const shown = signed ?? typed;
  function enter(next: { name: string; on: string }) {
    setTyped(next);
    if (next.name && next.on) set("/floor/signed", next);
  }
  return (
    <div
      className={`border-2 rounded-box p-2 space-y-2 ${signed ? "border-success" : "border-error"}`}
    >
      <h3 className="font-semibold">An engineer signs before a joist is cut</h3>
      <div className="flex flex-wrap gap-2 items-end">
        <div className="flex-1 min-w-40">
          <p className="text-sm mb-1">Engineer</p>
          <NameField
            label="Engineer who signed"
            value={shown.name}
            onCommit={(name) => enter({ ...shown, name })}
          />
        </div>
        <label className="text-sm" htmlFor={day}>
          Signed on
          <input
            id={day}
            type="date"
            className="input h-11 text-base mt-1"
            value={shown.on}
            onChange={(event) => enter({ ...shown, on: event.currentTarget.value })}
          />
        </label>
        {signed && (
          <button
            type="button"
            className="btn h-11"
            onClick={() => {
              setTyped({ name: "", on: "" });
              set("/floor/signed", null);
            }}
          >
            Not signed
          </button>
        )}
      </div>
    </div>
  );
}
