import { useScreen } from "../../job/context";
import { Choice } from "../../ui/Choice";
import { FigureRows } from "../../ui/FigureRows";
import { sits, UserChoice } from "../../ui/UserChoice";
import { Compare } from "./Compare";
import { OwnValues } from "./OwnValues";
import { SpacesList } from "./SpacesList";
import { Thresholds } from "./Thresholds";

/** Who will use the room, whether they get in, turn, reach and wash, and under which rules. */
export function AccessStep() {
  const { plan, solution } = useScreen();
  const access = solution?.access;
  return (
    <div className="space-y-5">
      <Users />
      {solution && !solution.complete && (
        <p>The turning circle is checked once the falls can be worked out.</p>
      )}
      {!plan.users.length && (
        <p>
          Say who will use the room: spaces, doors, heights and the way in are then held against the
          rules.
        </p>
      )}
      {access && (
        <>
          <SpacesList />
          <p className="text-sm">{access.asked}</p>
          <Thresholds />
          <FigureRows figures={access.figures} />
        </>
      )}
      <OwnValues />
      {access && <Compare />}
      {access && <p className="text-sm">{solution?.deference}</p>}
    </div>
  );
}

function Users() {
  const { plan, set } = useScreen();
  return (
    <fieldset>
      <legend className="font-semibold mb-1">Who will use the room</legend>
      <UserChoice users={plan.users} onChange={(users) => set("/users", users)} />
      {sits(plan.users) && (
        <div className="mt-2">
          <Choice
            label="Changes over to the WC from its"
            value={plan.transfer ?? "none"}
            options={[
              { value: "left", label: "Left" },
              { value: "right", label: "Right" },
              { value: "none", label: "Not said" },
            ]}
            onChange={(side) => set("/transfer", side === "none" ? null : side)}
          />
        </div>
      )}
    </fieldset>
  );
}
