import type { WallsResult } from "../../api/generated/solution";
import { useScreen } from "../../job/context";
import { AddButton, RemoveButton } from "../../ui/ListButtons";
import { MeasureField } from "../../ui/MeasureField";

/** What is built into the walls: niches, the valve, and studs that are out of plumb. */
export function BuiltIn({ found }: { found: WallsResult }) {
  return (
    <>
      <Niches />
      <Valve found={found} />
      <Faces />
    </>
  );
}

function WallSelect({ path, wall, label }: { path: string; wall: number; label: string }) {
  const { plan, set } = useScreen();
  return (
    <select
      aria-label={label}
      className="select h-11 text-base flex-1"
      value={wall}
      onChange={(event) => set(`${path}/wall`, Number(event.currentTarget.value))}
    >
      {plan.room.outline.map((corner, i) => (
        <option key={String(corner)} value={i}>
          wall {i + 1}
        </option>
      ))}
    </select>
  );
}

function Niches() {
  const { plan, set } = useScreen();
  return (
    <section aria-label="Niches and windows" className="space-y-2">
      <h2 className="font-semibold">Niches and windows</h2>
      {plan.walls.niches.map((niche, i) => {
        const path = `/walls/niches/${i}`;
        return (
          <div key={path} className="space-y-1.5 border-l-4 border-base-300 pl-3">
            <div className="flex gap-2 items-center">
              <strong>{i + 1}</strong>
              <select
                aria-label={`What opening ${i + 1} is`}
                className="select h-11 text-base w-28"
                value={niche.kind}
                onChange={(event) => set(`${path}/kind`, event.currentTarget.value)}
              >
                <option value="niche">Niche</option>
                <option value="window">Window</option>
              </select>
              <WallSelect path={path} wall={niche.wall} label={`Wall of opening ${i + 1}`} />
              <RemoveButton label={`Remove opening ${i + 1}`} path={path} />
            </div>
            <div className="grid grid-cols-2 gap-2">
              <MeasureField label="From first corner" path={`${path}/offset`} />
              <MeasureField label="Sill above floor" path={`${path}/sill`} />
              <MeasureField label="Opening width" path={`${path}/width`} />
              <MeasureField label="Opening height" path={`${path}/height`} />
            </div>
          </div>
        );
      })}
      <AddButton what="niche">Add opening</AddButton>
    </section>
  );
}

function Valve({ found }: { found: WallsResult }) {
  const { plan, set } = useScreen();
  return (
    <section aria-label="Depth of the valve" className="space-y-2">
      <h2 className="font-semibold">Valve depth</h2>
      {found.chain.length > 0 && (
        <ol className="divide-y divide-base-300 border-y border-base-300">
          {found.chain.map((row) => (
            <li key={row.name} className="flex gap-3 py-1.5">
              <span className="flex-1">{row.name}</span>
              <span className="font-semibold">{row.text}</span>
            </li>
          ))}
        </ol>
      )}
      {plan.walls.valve ? (
        <div className="grid grid-cols-2 gap-2 items-end">
          <MeasureField label="Thinnest wall it takes" path="/walls/valve/least" />
          <MeasureField label="Thickest wall it takes" path="/walls/valve/most" />
          <MeasureField label="In front of studs" path="/walls/valve/forward" />
          <button type="button" className="btn h-11" onClick={() => set("/walls/valve", null)}>
            Remove valve
          </button>
        </div>
      ) : (
        <AddButton what="valve">Add valve</AddButton>
      )}
    </section>
  );
}

function Faces() {
  const { plan } = useScreen();
  return (
    <section aria-label="Studs out of plumb" className="space-y-2">
      <h2 className="font-semibold">Studs out of plumb</h2>
      <p className="text-sm">
        Hold a plumb line along the wall. Type how far each stud is behind it.
      </p>
      {plan.walls.faces.map((face, i) => {
        const path = `/walls/faces/${i}`;
        return (
          <div key={path} className="space-y-1.5 border-l-4 border-base-300 pl-3">
            <div className="flex gap-2 items-center">
              <strong>{i + 1}</strong>
              <WallSelect path={path} wall={face.wall} label={`Wall of stud ${i + 1}`} />
              <RemoveButton label={`Remove stud ${i + 1}`} path={path} />
            </div>
            <div className="grid grid-cols-3 gap-2">
              <MeasureField label="From first corner" path={`${path}/offset`} />
              <MeasureField label="At foot" path={`${path}/foot`} />
              <MeasureField label="At head" path={`${path}/head`} />
            </div>
          </div>
        );
      })}
      <AddButton what="stud face">Add stud</AddButton>
    </section>
  );
}
