import { useRef, useState } from "react";
import type { Plan } from "../../api/generated/plan";
import { useScreen } from "../../job/context";
import { Choice } from "../../ui/Choice";
import { Labelled } from "../../ui/Labelled";
import { PickedPlace } from "../PickedPlace";

type Reading = Plan["survey"]["levels"][number];

export function TakeReading() {
  const { plan, ask, picked } = useScreen();
  const [kind, setKind] = useState<Reading["kind"]>("height");
  const [typed, setTyped] = useState({ value: "", instrument: "", direction: "0", distance: "" });
  const [error, setError] = useState<string | null>(null);
  const value = useRef<HTMLInputElement>(null);

  async function take() {
    if (!picked) {
      setError("Touch the chart where it was read, or type the place.");
      return;
    }
    const direction = Number(typed.direction.replace("°", ""));
    if (kind === "shim" && !Number.isFinite(direction)) {
      setError("Give the direction in degrees, such as 90.");
      return;
    }
    try {
      const reading = { ...typed, kind, at: picked, direction };
      await ask({ what: "reading", display: plan.display, reading });
      setTyped({ ...typed, value: "" });
      setError(null);
      value.current?.focus();
    } catch (problem) {
      setError((problem as Error).message);
    }
  }

  return (
    <fieldset className="space-y-2">
      <legend className="font-semibold mb-1">Take a reading</legend>
      <Choice
        label="Read with"
        value={kind}
        options={[
          { value: "height", label: "Height" },
          { value: "staff", label: "Staff" },
          { value: "shim", label: "Level & shims" },
        ]}
        onChange={setKind}
      />
      <PickedPlace />
      <form
        className="flex flex-wrap gap-2 items-end"
        onSubmit={(event) => {
          event.preventDefault();
          void take();
        }}
      >
        <TextField
          label={
            kind === "shim"
              ? "Gap under the end"
              : kind === "staff"
                ? "On the staff"
                : "Height there"
          }
          value={typed.value}
          onChange={(text) => setTyped({ ...typed, value: text })}
          field={value}
        />
        {kind === "staff" && (
          <TextField
            label="Laser's height"
            value={typed.instrument}
            onChange={(text) => setTyped({ ...typed, instrument: text })}
          />
        )}
        {kind === "shim" && (
          <>
            <TextField
              label="Direction, °"
              value={typed.direction}
              onChange={(text) => setTyped({ ...typed, direction: text })}
            />
            <TextField
              label="At a distance of"
              value={typed.distance}
              onChange={(text) => setTyped({ ...typed, distance: text })}
            />
          </>
        )}
        <button type="submit" className="btn btn-info h-11">
          Take it
        </button>
      </form>
      {error && (
        <p role="alert" className="text-error font-semibold text-sm">
          {error}
        </p>
      )}
    </fieldset>
  );
}

function TextField({
  label,
  value,
  onChange,
  field,
}: {
  label: string;
  value: string;
  onChange: (text: string) => void;
  field?: React.RefObject<HTMLInputElement | null>;
}) {
  return (
    <Labelled label={label}>
      {(id) => (
        <input
          id={id}
          ref={field}
          className="input w-full h-11 text-lg font-semibold px-2.5"
          value={value}
          autoComplete="off"
          onChange={(event) => onChange(event.currentTarget.value)}
        />
      )}
    </Labelled>
  );
}
