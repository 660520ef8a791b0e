import type { WallsResult } from "../../api/generated/solution";
import { useScreen } from "../../job/context";
import { Choice } from "../../ui/Choice";
import { MeasureField } from "../../ui/MeasureField";

/** Each wall from inside, framed or boarded, with what is cut for it. */
export function Elevations({ found }: { found: WallsResult }) {
  const { plan, set } = useScreen();
  return (
    <section aria-label="Framing and boards" className="space-y-3">
      <h2 className="font-semibold">Framing and boards</h2>
      <div className="fields items-end">
        <Own
          label="Stud spacing"
          path="/walls/centres"
          value={found.centres}
          text={found.centres_text}
        />
        <Own
          label="Board height"
          path="/walls/height"
          value={found.boarded}
          text={found.boarded_text}
        />
      </div>
      <div className="fields items-end">
        <Own
          label="Board length"
          path="/walls/board_length"
          value={found.board[0]}
          text={found.board_texts[0]}
        />
        <Own
          label="Board width"
          path="/walls/board_width"
          value={found.board[1]}
          text={found.board_texts[1]}
        />
      </div>
      <Choice
        label="Boards fixed with"
        value={plan.walls.fixing}
        options={[
          { value: "washers", label: "Washers" },
          { value: "screws", label: "Screws and bead" },
        ]}
        onChange={(fixing) => set("/walls/fixing", fixing)}
      />
      {found.built.map((one) => (
        <section key={one.name} aria-label={one.name} className="space-y-2">
          <h3 className="font-semibold first-letter:uppercase">{one.name}</h3>
          <Rows title="Build it to" rows={[...one.rows]} />
          <p>{one.note}</p>
        </section>
      ))}
      {found.views.map((view) => (
        <section key={view.name} aria-label={view.name} className="space-y-2">
          <h3 className="font-semibold first-letter:uppercase">
            {view.name}: {view.said}
          </h3>
          {view.cuts.length > 0 && <Rows title="Cut between studs" rows={[...view.cuts]} />}
          {view.furring.length > 0 && <Rows title="Furring" rows={[...view.furring]} />}
          {view.fixings.length > 0 && (
            <ul className="list-disc pl-5 space-y-1">
              {view.fixings.map((fixing) => (
                <li key={fixing}>{fixing}</li>
              ))}
            </ul>
          )}
        </section>
      ))}
    </section>
  );
}

interface OwnProps {
  label: string;
  path: string;
  value: number;
  text: string;
}

/** A size that is as usual until it is typed. */
function Own({ label, path, value, text }: OwnProps) {
  const { set } = useScreen();
  return (
    <MeasureField
      label={label}
      covers={[path]}
      value={value}
      text={text}
      onCommit={(value) => set(path, value)}
    />
  );
}

function Rows({ title, rows }: { title: string; rows: { name: string; text: string }[] }) {
  return (
    <div>
      <h4 className="text-sm">{title}</h4>
      <ul className="divide-y divide-base-300 border-y border-base-300">
        {rows.map((row) => (
          <li key={row.name} className="flex gap-3 py-1.5">
            <span className="flex-1">{row.name}</span>
            <span className="font-semibold text-right">{row.text}</span>
          </li>
        ))}
      </ul>
    </div>
  );
}
