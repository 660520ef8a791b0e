import { useId } from "react";
import { useScreen } from "../../job/context";
import { NameField } from "../../ui/NameField";

/** Who signed for joists that are planned to be cut, and on which day: until then it is a stop. */
export function Signed() {
  const { plan, set } = useScreen();
  const day = useId();
  const { floor } = plan;
  if (floor.kind !== "joists" || !floor.others.some((other) => other.planned)) return null;
  const today = new Date().toLocaleDateString("sv");
  const { signed } = floor;
  return (
    <div className="border-2 border-error rounded-box p-2 space-y-2">
      <h3 className="font-semibold">An engineer signs before a joist is cut</h3>
      <div className="flex flex-wrap gap-2 items-end">
        <div className="flex-1 min-w-40">
          <p className="text-sm mb-1">Engineer</p>
          <NameField
            label="Engineer who signed"
            value={signed?.name ?? ""}
            onCommit={(name) => set("/floor/signed", { name, on: signed?.on ?? today })}
          />
        </div>
        {signed && (
          <>
            <label className="text-sm" htmlFor={day}>
              Signed on
              <input
                id={day}
                type="date"
                className="input h-11 text-base mt-1"
                value={signed.on}
                onChange={(event) => {
                  const on = event.currentTarget.value;
                  if (on) set("/floor/signed", { ...signed, on });
                }}
              />
            </label>
            <button type="button" className="btn h-11" onClick={() => set("/floor/signed", null)}>
              Not signed
            </button>
          </>
        )}
      </div>
    </div>
  );
}
