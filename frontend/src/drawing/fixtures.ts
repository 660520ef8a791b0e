import type { Plan } from "../api/client";
import { whole } from "../job/places";
import { withValue } from "../job/pointer";
import type { Handle } from "./handles";
import type { XY } from "./view";
import { SNAP, seenFrom, wallsOf } from "./walls";

/** Turns are whole to this, degrees. */
const STEP = 15;
/** How far in front of a fixture the handle stands that turns it, mm. */
const AHEAD = 90;

type Fixture = Plan["room"]["fixtures"][number];

/** The fixture with its middle at a place, or with its back against the wall that is near there. */
function placed(plan: Plan, fixture: Fixture, to: XY): Fixture {
  for (const wall of wallsOf(plan.room.outline)) {
    const { from: a, along, inward, length } = wall;
    const [at, off] = seenFrom(wall, to);
    if (at < 0 || at > length || Math.abs(off - fixture.length / 2) > SNAP) continue;
    const end = Math.min(fixture.width / 2, length / 2);
    const here =
      Math.abs(at - end) < SNAP ? end : Math.abs(length - at - end) < SNAP ? length - end : at;
    const centre: XY = [
      a[0] + along[0] * here + (inward[0] * fixture.length) / 2,
      a[1] + along[1] * here + (inward[1] * fixture.length) / 2,
    ];
    const turn = (Math.atan2(-inward[0], inward[1]) * 180) / Math.PI;
    return { ...fixture, centre: centre.map(whole) as XY, turn: whole(turn) };
  }
  return { ...fixture, centre: to };
}

const front = ({ centre, turn, length }: Fixture): XY => {
  const angle = (turn * Math.PI) / 180;
  const far = length / 2 + AHEAD;
  return [centre[0] - Math.sin(angle) * far, centre[1] + Math.cos(angle) * far];
};

/** What stands in the room, to be dragged, against walls too, and turned by what stands before it. */
export const fixtureHandles = (plan: Plan): Handle[] =>
  plan.room.fixtures.flatMap((fixture, i): Handle[] => {
    const path = `/room/fixtures/${i}`;
    const nowhere = { xs: [], ys: [], walls: [] };
    return [
      {
        key: `fixture-${i}`,
        label: fixture.name,
        at: fixture.centre,
        kind: "corner",
        snap: nowhere,
        move: (old, to) => withValue(old, path, placed(old, fixture, to)),
        nudge: (old, to) => withValue(old, `${path}/centre`, to),
      },
      {
        key: `fixture-${i}-turn`,
        label: `${fixture.name}, which way it looks`,
        at: front(fixture),
        kind: "turn",
        snap: nowhere,
        move: (old, [x, y]) => {
          const [cx, cy] = fixture.centre;
          const turn = (Math.atan2(cx - x, y - cy) * 180) / Math.PI;
          return withValue(old, `${path}/turn`, Math.round(turn / STEP) * STEP);
        },
        nudge: (old, [x, y]) => {
          const [hx, hy] = front(fixture);
          const by = x > hx || y > hy ? -STEP : STEP;
          const turn = (((fixture.turn + by + 540) % 360) + 360) % 360;
          return withValue(old, `${path}/turn`, whole(turn - 180));
        },
      },
    ];
  });
