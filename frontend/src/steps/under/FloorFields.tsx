import { useState } from "react";
import { useScreen } from "../../job/context";
import { useShown } from "../../job/shown";
import { Choice } from "../../ui/Choice";
import { AddButton, RemoveButton } from "../../ui/ListButtons";
import { MeasureField } from "../../ui/MeasureField";
import { NumberField } from "../../ui/NumberField";
import { PlaceFields } from "../../ui/PlaceFields";

/** The floor as it really is: how its joists are built, which of them are different, what carries
 * them; or what is in the slab. */
export function FloorFields() {
  const { plan } = useScreen();
  return plan.floor.kind === "joists" ? <Joists /> : <Slab />;
}

function Joists() {
  const { plan, set, apply } = useScreen();
  const floor = plan.floor;
  if (floor.kind !== "joists") return null;
  return (
    <fieldset className="space-y-2">
      <legend className="font-semibold mb-1">What carries the floor</legend>
      <Choice
        label="Joists are"
        value={floor.joist}
        options={[
          { value: "sawn", label: "Sawn" },
          { value: "i_joist", label: "I-joists" },
          { value: "truss", label: "Trusses" },
        ]}
        onChange={(joist) => set("/floor/joist", joist)}
      />
      {floor.joist !== "sawn" && (
        <div className="fields">
          <MeasureField
            label={floor.joist === "truss" ? "Chord, high" : "Flange, high"}
            path="/floor/flange"
          />
          {floor.joist === "i_joist" && <MeasureField label="Web, thick" path="/floor/web" />}
        </div>
      )}
      <div className="fields">
        <MeasureField label="Centres" path="/floor/centres" />
        <MeasureField label="Wide" path="/floor/width" />
        <MeasureField label="Deep" path="/floor/depth" />
      </div>
      <Screws />
      {floor.span === null ? (
        <AddButton what="span" outlined>
          Say how far they span
        </AddButton>
      ) : (
        <div className="fields items-end">
          <MeasureField label="Span" path="/floor/span" />
          <MeasureField label="begins, along them" path="/floor/bearing" />
          <button
            type="button"
            className="btn h-11"
            onClick={() =>
              apply([
                { path: "/floor/span", value: null },
                { path: "/floor/bearing", value: null },
              ])
            }
          >
            Not measured
          </button>
        </div>
      )}
      <Choice
        label="Below them hangs"
        value={floor.ceiling ? "ceiling" : "nothing"}
        options={[
          { value: "ceiling", label: "A ceiling" },
          { value: "nothing", label: "Nothing" },
        ]}
        onChange={(what) => set("/floor/ceiling", what === "ceiling")}
      />
      <Others />
      <Added />
    </fieldset>
  );
}

/** Joists found by two screws of one line: typed, or touched on the chart. */
function Screws() {
  const { plan, edit, picked, during } = useScreen();
  const map = useShown((shown) => shown.map);
  const [first, setFirst] = useState<[number, number] | null>(null);
  if (plan.floor.kind !== "joists") return null;
  const place = ([x, y]: [number, number]) => `${Math.round(x)} right, ${Math.round(y)} up (mm)`;
  return (
    <div className="border border-base-300 rounded-box p-2 space-y-2">
      <p className="text-sm leading-snug">
        Lines of screws show the joists. Two screws of one line tell where they lie:{" "}
        {map
          ? "hide the map and touch both on the chart, or type direction and offset."
          : "touch one, then the other."}
      </p>
      {!map && picked && (
        <button
          type="button"
          className="btn h-11 w-full"
          onClick={() => {
            if (!first) setFirst(picked);
            else {
              void during(edit({ act: "screws", first, last: picked }));
              setFirst(null);
            }
          }}
        >
          {first ? `From ${place(first)} to ${place(picked)}` : `First screw: ${place(picked)}`}
        </button>
      )}
      <div className="fields">
        <NumberField label="Direction, °" path="/floor/direction" />
        <MeasureField label="First joist, from origin" path="/floor/first_offset" />
      </div>
    </div>
  );
}

/** Joists that are not as the others. */
function Others() {
  const { plan, set, edit, solution } = useScreen();
  const floor = plan.floor;
  if (floor.kind !== "joists") return null;
  const joists = solution?.structure?.timbers.filter((timber) => timber.number !== null) ?? [];
  const named = new Set(floor.others.map((other) => other.number));
  const name = (index: number) =>
    joists.find((timber) => timber.index === index)?.name ?? `joist left out (${index})`;
  const free = joists.filter((timber) => timber.index !== null && !named.has(timber.index));
  return (
    <div className="space-y-2">
      {floor.others.map((other, i) => {
        const at = `/floor/others/${i}`;
        return (
          <div key={other.number} className="border border-base-300 rounded-box p-2 space-y-2">
            <div className="flex items-center">
              <h3 className="font-semibold flex-1">{name(other.number)}</h3>
              <RemoveButton label={`${name(other.number)} is as the others`} path={at} />
            </div>
            <Choice
              label="It is"
              value={other.left_out ? "out" : String(Math.min(other.plies, 3))}
              options={[
                { value: "1", label: "Single" },
                { value: "2", label: "Double" },
                { value: "3", label: "Triple" },
                { value: "out", label: "Left out" },
              ]}
              onChange={(way) =>
                set(at, {
                  ...other,
                  left_out: way === "out",
                  plies: way === "out" ? other.plies : Number(way),
                })
              }
            />
            <div className="fields items-end">
              <MeasureField label="Moved sideways" path={`${at}/moved`} />
              {(["start", "end"] as const).map((end) =>
                other[end] === null ? (
                  <AddButton key={end} what={`joist ${end}`} side={i} outlined>
                    Cut short, {end}
                  </AddButton>
                ) : (
                  <MeasureField key={end} label={`${end}, along`} path={`${at}/${end}`} />
                ),
              )}
            </div>
            {(other.start !== null || other.end !== null || other.left_out) && (
              <Choice
                label="Its state"
                value={other.planned ? "planned" : "there"}
                options={[
                  { value: "there", label: "As found" },
                  { value: "planned", label: "Planned" },
                ]}
                onChange={(way) => set(`${at}/planned`, way === "planned")}
              />
            )}
          </div>
        );
      })}
      <label className="block text-sm">
        A joist is different: doubled, moved, left out, cut short
        <select
          className="select w-full h-11 text-base mt-1"
          value=""
          onChange={(event) => {
            const index = Number(event.currentTarget.value);
            void edit({ act: "add", what: "other joist", side: index });
          }}
        >
          <option value="" disabled>
            Choose which
          </option>
          {free.map((timber) => (
            <option key={timber.index} value={timber.index ?? ""}>
              {timber.name}
            </option>
          ))}
        </select>
      </label>
    </div>
  );
}

/** Trimmers, joists that were put in, and what carries the joists. */
function Added() {
  const { plan, set } = useScreen();
  const floor = plan.floor;
  if (floor.kind !== "joists") return null;
  return (
    <div className="space-y-2">
      {(["members", "beams"] as const).flatMap((list) =>
        floor[list].map((timber, i) => {
          const at = `/floor/${list}/${i}`;
          return (
            <div key={at} className="border border-base-300 rounded-box p-2 space-y-2">
              <div className="flex items-center">
                <h3 className="font-semibold flex-1">{timber.kind}</h3>
                <RemoveButton label={`Remove ${timber.kind} ${i + 1}`} path={at} />
              </div>
              <PlaceFields label="One end" path={`${at}/start`}>
                <MeasureField label="Wide" path={`${at}/width`} />
              </PlaceFields>
              <PlaceFields label="Other end" path={`${at}/end`} />
              {"flush" in timber && (
                <Choice
                  label="It lies"
                  value={timber.flush ? "flush" : "below"}
                  options={[
                    { value: "below", label: "Below the joists" },
                    { value: "flush", label: "Between them" },
                  ]}
                  onChange={(way) => set(`${at}/flush`, way === "flush")}
                />
              )}
            </div>
          );
        }),
      )}
      <div className="flex flex-wrap gap-1">
        <AddButton what="trimmer">Trimmer</AddButton>
        <AddButton what="added joist">Joist put in</AddButton>
        <AddButton what="girder">Girder or wall below</AddButton>
      </div>
    </div>
  );
}

function Slab() {
  const { plan, set } = useScreen();
  const floor = plan.floor;
  if (floor.kind !== "slab") return null;
  return (
    <fieldset className="space-y-2">
      <legend className="font-semibold mb-1">The slab</legend>
      <MeasureField label="Slab thickness" path="/floor/thickness" />
      <label className="block text-sm">
        Reinforced by
        <select
          className="select w-full h-11 text-base mt-1"
          value={floor.reinforcement}
          onChange={(event) => set("/floor/reinforcement", event.currentTarget.value)}
        >
          <option value="unknown">Not known</option>
          <option value="none">Nothing</option>
          <option value="bars">Bars or mesh</option>
          <option value="post_tensioned">Stressed cables (post-tensioned)</option>
        </select>
      </label>
      {floor.membrane === null ? (
        <AddButton what="membrane" outlined>
          Say where the damp-proof membrane is
        </AddButton>
      ) : (
        <div className="fields items-end">
          <MeasureField label="Damp-proof membrane, below the top" path="/floor/membrane" />
          <button type="button" className="btn h-11" onClick={() => set("/floor/membrane", null)}>
            Not known
          </button>
        </div>
      )}
    </fieldset>
  );
}
