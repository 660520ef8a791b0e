import type { WallBox, WallView } from "../api/generated/solution";
import { HaloText } from "./HaloText";
import { type Placed, UnfoldedWalls } from "./UnfoldedWalls";

/** A letter's width, pixels, by which a size is said only where it fits. */
const LETTER = 8;

/** The walls from inside, unfolded from left to right: studs, backing between them, boards with
 * their screws, niches and what hangs on them. */
export function WallsDrawing({ walls, boarded }: { walls: readonly WallView[]; boarded: boolean }) {
  const low = Math.min(...walls.map((one) => one.low));
  return (
    <UnfoldedWalls
      walls={walls}
      low={low}
      top={(wall) => wall.height}
      label={`Walls from inside: ${walls.map((one) => `${one.name}, ${one.said}`).join("; ")}`}
    >
      {(wall, place) => <Wall wall={wall} boarded={boarded} {...place} />}
    </UnfoldedWalls>
  );
}

interface WallProps extends Placed {
  wall: WallView;
  boarded: boolean;
}

function Wall({ wall, boarded, at, rect, scale }: WallProps) {
  const middle = (one: WallBox) => at([one.x + one.width / 2, one.y + one.height / 2]);
  const drawn = boarded ? wall.boards : [];
  return (
    <g data-wall={wall.name}>
      {[...wall.studs, ...wall.added].map((one, i) => (
        <rect
          key={`stud ${i}`}
          data-stud
          {...rect(one)}
          fill={i < wall.studs.length ? "var(--packing)" : "var(--hazard)"}
          stroke="var(--ink)"
          strokeWidth={0.8}
        />
      ))}
      {wall.backing.map((one, i) => (
        <rect
          key={`backing ${i}`}
          data-backing
          {...rect(one)}
          fill="var(--sounding)"
          fillOpacity={0.4}
          stroke="var(--ink)"
          strokeWidth={0.8}
        />
      ))}
      {drawn.map((one, i) => (
        <rect
          key={`board ${i}`}
          data-board
          {...rect(one)}
          fill="var(--paper)"
          fillOpacity={0.75}
          stroke="var(--ink)"
          strokeWidth={1.5}
        />
      ))}
      {wall.niches.map((one, i) => (
        <rect
          key={`niche ${i}`}
          data-niche
          {...rect(one)}
          fill="var(--paper)"
          stroke="var(--hazard)"
          strokeWidth={2}
        >
          <title>{one.text}</title>
        </rect>
      ))}
      {boarded &&
        wall.fasteners.map((place, i) => {
          const [cx, cy] = at(place);
          return <circle key={`screw ${i}`} data-screw cx={cx} cy={cy} r={2} fill="var(--ink)" />;
        })}
      {wall.hung.map((one, i) => {
        const { x, y, width: wide, height } = rect(one);
        return (
          <g key={`hung ${i}`}>
            <rect x={x} y={y} width={wide} height={Math.max(height, 4)} fill="var(--hazard)" />
            <HaloText at={[x + wide / 2, y - 9]} ink="var(--ink)" size={14}>
              {one.text}
            </HaloText>
          </g>
        );
      })}
      {drawn
        .filter((one) => one.text.length * LETTER < one.width * scale)
        .map((one, i) => (
          <HaloText key={`size ${i}`} at={middle(one)} ink="var(--ink)" size={14}>
            {one.text}
          </HaloText>
        ))}
    </g>
  );
}
