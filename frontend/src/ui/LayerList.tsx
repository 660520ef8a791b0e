import { useQuery } from "@tanstack/react-query";
import { ArrowUp, Plus } from "lucide-react";
import { useState } from "react";
import { api, type Problem, type ShelvedLayer } from "../api/client";
import type { Layer } from "../api/generated/plan";
import { useScreen } from "../job/context";
import { valueAt } from "../job/pointer";
import { RemoveButton } from "./ListButtons";
import { MeasureField } from "./MeasureField";
import { NameField } from "./NameField";

type Of = "room" | "shower" | "shower wall" | "other wall";

const PATHS = {
  room: "/room/layers",
  shower: "/shower/layers",
  "shower wall": "/walls/shower",
  "other wall": "/walls/rest",
} as const;

interface Props {
  title: string;
  of: Of;
  total?: string;
}

/** The layers of a floor or wall from the tile on: their names and thicknesses. */
export function LayerList({ title, of, total }: Props) {
  const { plan, set, edit, solution } = useScreen();
  const path = PATHS[of];
  const layers = valueAt(plan, path) as Layer[];
  return (
    <fieldset>
      <legend className="flex w-full items-baseline gap-2 font-semibold mb-1">
        <span className="flex-1">{title}</span>
        {total && <span className="text-sm font-normal">in all {total}</span>}
      </legend>
      <ul className="space-y-1.5">
        {layers.map((layer, i) => (
          <li key={i} className="grid grid-cols-[2.75rem_1fr_6.5rem_2.75rem] gap-1">
            <button
              type="button"
              className={`btn btn-ghost btn-square size-11 ${i === 0 ? "invisible" : ""}`}
              aria-label={`Move ${layer.name} up`}
              title="Move up"
              onClick={() => void edit({ act: "raise", path: `${path}/${i}` })}
            >
              <ArrowUp size={18} aria-hidden />
            </button>
            <NameField
              label={`${title}: name of layer ${i + 1}`}
              value={layer.name}
              onCommit={(name) => set(`${path}/${i}/name`, name)}
            />
            <MeasureField
              compact
              label={`${title}: thickness of ${layer.name}`}
              path={`${path}/${i}/thickness`}
              hint={usually(solution?.plan_texts, `${path}/${i}`)}
            />
            <RemoveButton label={`Remove ${layer.name}`} path={`${path}/${i}`} />
            <RoleField layer={layer} path={`${path}/${i}/role`} />
          </li>
        ))}
      </ul>
      <AddLayer of={of} />
    </fieldset>
  );
}

/** What a layer may count as. */
export const ROLES: Record<Layer["role"], string> = {
  other: "its thickness alone",
  tile: "tile",
  adhesive: "adhesive",
  membrane: "membrane",
  board: "board",
  plywood: "plywood",
  cable: "heating cable",
  cast: "screed or compound",
};

/** What a layer counts as that came from no list, whatever it is called. */
function RoleField({ layer, path }: { layer: Layer; path: string }) {
  const { set } = useScreen();
  // It stays while it has the focus, so that a choice can be taken back at once.
  const [held, hold] = useState(false);
  if (layer.role !== "other" && !held) return null;
  return (
    <label className="col-start-2 col-span-3 flex items-center gap-2 text-sm">
      <span className="shrink-0">Counts as</span>
      <select
        aria-label={`What ${layer.name} counts as`}
        className="select h-11 text-base flex-1 min-w-0"
        value={layer.role}
        onFocus={() => hold(true)}
        onBlur={() => hold(false)}
        onChange={(event) => set(path, event.currentTarget.value)}
      >
        {Object.entries(ROLES).map(([role, said]) => (
          <option key={role} value={role}>
            {said}
          </option>
        ))}
      </select>
    </label>
  );
}

/** How thick a layer of its kind usually is. */
function usually(texts: Record<string, string> | undefined, path: string) {
  const [least, most] = [texts?.[`${path}/least`], texts?.[`${path}/most`]];
  return least && most ? `${least} to ${most}` : undefined;
}

/** One more layer: of a kind with its usual thickness, or another. */
function AddLayer({ of }: { of: Of }) {
  const { edit } = useScreen();
  const [kind, choose] = useState("");
  const kinds = useQuery<ShelvedLayer[], Problem>({ queryKey: ["layers"], queryFn: api.layers });
  const place = of === "room" || of === "shower" ? of : "wall";
  const fitting = (kinds.data ?? []).filter(({ layer }) => layer.places.includes(place));
  return (
    <div className="flex gap-1.5 mt-1.5">
      <select
        aria-label={`Kind of layer for the ${of}`}
        className="select h-11 text-base flex-1"
        value={kind}
        onChange={(event) => choose(event.currentTarget.value)}
      >
        <option value="">Another layer</option>
        {fitting.map(({ layer, ships }) => (
          <option key={layer.id} value={layer.id}>
            {layer.name}
            {ships ? "" : " (your own)"}
          </option>
        ))}
      </select>
      <button
        type="button"
        className="btn h-11"
        aria-label={`Add it to the ${of}`}
        onClick={() => void edit({ act: "add", what: `${of} layer`, ...(kind && { kind }) })}
      >
        <Plus size={18} aria-hidden /> Add
      </button>
    </div>
  );
}
