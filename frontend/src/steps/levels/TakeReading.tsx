import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { api } from "../../api/client";
import type { Plan } from "../../api/generated/plan";
import type { XY } from "../../drawing/view";
import { useScreen } from "../../job/context";
import { measureAt } from "../../job/places";
import { useShow, useShown } from "../../job/shown";
import { Choice } from "../../ui/Choice";
import { Labelled } from "../../ui/Labelled";
import { PickedPlace } from "../PickedPlace";

type Reading = Plan["survey"]["levels"][number];

const VALUES = { height: "Height there", staff: "On the staff", shim: "Gap under the other end" };

export function TakeReading() {
  const { plan, ask, picked, pick } = useScreen();
  const show = useShow();
  const lies = useShown((shown) => shown.lies);
  const [kind, setKind] = useState<Reading["kind"]>("height");
  const [typed, setTyped] = useState({ value: "", instrument: "" });
  const [error, setError] = useState<string | null>(null);
  const value = useRef<HTMLInputElement>(null);
  const begins = kind === "shim" && !lies;
  const called = begins ? "Lies at" : lies ? "Other end" : "";

  useEffect(() => {
    // A place that was touched waits for what is read there; one that is typed does not.
    if (picked && !(document.activeElement instanceof HTMLInputElement)) value.current?.focus();
  }, [picked]);

  function turnTo(next: Reading["kind"]) {
    setKind(next);
    setError(null);
    show({ lies: null });
  }

  async function take() {
    if (begins || !picked) {
      setError(
        begins
          ? "First touch where the level lies on the floor."
          : kind === "shim"
            ? "Touch the level’s other end on the chart, or type the place."
            : "Touch the chart where it was read, or type the place.",
      );
      return;
    }
    try {
      const reading = { ...typed, kind, at: lies ?? picked, end: lies && picked };
      await ask({ what: "reading", display: plan.display, reading });
      setTyped({ ...typed, value: "" });
      setError(null);
      show({ lies: null });
      pick(null);
      // A finger goes back to the chart, a keyboard stays where it types.
      if (byFinger()) document.querySelector("[data-zoom]")?.scrollIntoView({ block: "center" });
      else value.current?.focus();
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
        onChange={turnTo}
      />
      {lies && <Lies at={lies} />}
      <PickedPlace key={called} label={called} />
      {begins ? (
        <button
          type="button"
          className="btn btn-info h-11"
          disabled={!picked}
          onClick={() => {
            show({ lies: picked });
            pick(null);
            setError(null);
          }}
        >
          Then its other end
        </button>
      ) : (
        <form
          className="flex flex-wrap gap-2 items-end"
          onSubmit={(event) => {
            event.preventDefault();
            void take();
          }}
        >
          <TextField
            label={VALUES[kind]}
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
          <button type="submit" className="btn btn-info h-11">
            Take it
          </button>
        </form>
      )}
      {error && (
        <p role="alert" className="text-error font-semibold text-sm">
          {error}
        </p>
      )}
    </fieldset>
  );
}

const byFinger = () => window.matchMedia("(pointer: coarse)").matches;

/** Where a level lies on the floor, and the way back from it. */
function Lies({ at }: { at: XY }) {
  const { plan, solution, pick } = useScreen();
  const show = useShow();
  const frame = solution?.drawing.frame;
  const texts = useQuery({
    queryKey: ["place", at, frame, plan.display],
    queryFn: () => api.lengths(frame?.map((one) => measureAt(one, at)) ?? [], plan.display),
    retry: false,
  });
  const far = texts.data?.map((text, i) => `${text} ${frame?.[i]?.name}`).join(", ");
  return (
    <p className="flex items-center gap-2 text-sm">
      <span className="flex-1">The level lies {far}. Touch its other end, over the gap.</span>
      <button
        type="button"
        className="btn h-11"
        onClick={() => {
          show({ lies: null });
          pick(at);
        }}
      >
        Back
      </button>
    </p>
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
