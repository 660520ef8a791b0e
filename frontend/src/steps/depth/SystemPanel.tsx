import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Problem, type ShelvedSystem } from "../../api/client";
import { useScreen } from "../../job/context";
import { OwnText } from "../../ui/OwnText";
import { CompareSystems } from "./CompareSystems";
import { FormerFields } from "./FormerFields";
import { Panels } from "./Panels";

/** What was bought: picked, it fills its part of the plan; below it is what makes the falls. */
export function SystemPanel() {
  const { plan, edit, set, solution } = useScreen();
  const known = useQuery<ShelvedSystem[], Problem>({ queryKey: ["systems"], queryFn: api.systems });
  const [comparing, compare] = useState(false);
  const chosen = plan.system;
  const listed = known.data?.find(({ system }) => system.id === chosen?.id);
  const here = (known.data ?? []).filter(({ system }) => system.floors.includes(plan.floor.kind));
  const elsewhere = (known.data ?? []).filter((one) => !here.includes(one));
  const pick = (id: string) =>
    id ? void edit({ act: "system", system: id }) : void set("/system", null);
  return (
    <>
      <fieldset className="space-y-2">
        <label className="block">
          <span className="font-semibold">Built with</span>
          <select
            className="select w-full h-11 text-base mt-1"
            value={chosen?.id ?? ""}
            onChange={(event) => pick(event.currentTarget.value)}
          >
            <option value="">No system: layer by layer</option>
            {chosen && !listed && <option value={chosen.id}>{chosen.name}</option>}
            <Group label={`For ${plan.floor.kind === "slab" ? "a slab" : "joists"}`} of={here} />
            <Group label="For another floor" of={elsewhere} />
          </select>
        </label>
        {solution?.system && <p className="leading-snug">{solution.system.says}</p>}
        <div className="flex flex-wrap gap-2">
          <button type="button" className="btn btn-info h-11" onClick={() => compare(true)}>
            Compare for this room
          </button>
          <OwnText
            of="systems"
            called="system"
            from={
              known.data?.[0] && {
                id: listed?.system.id ?? known.data[0].system.id,
                own: listed ? !listed.ships : false,
              }
            }
            help="Change what its own text says otherwise, or upload a file."
            onKept={(id) => pick(id)}
          />
        </div>
      </fieldset>
      {comparing && <CompareSystems onClose={() => compare(false)} pick={pick} />}
      <FormerFields />
      <Panels />
    </>
  );
}

function Group({ label, of }: { label: string; of: ShelvedSystem[] }) {
  if (!of.length) return null;
  return (
    <optgroup label={label}>
      {of.map(({ system, ships }) => (
        <option key={system.id} value={system.id}>
          {system.name}
          {ships ? "" : " (your own)"}
        </option>
      ))}
    </optgroup>
  );
}
