import { CircleCheck, CircleX, Minus } from "lucide-react";
import { useScreen } from "../../job/context";
import { useLights, useShown } from "../../job/shown";

const BOX = {
  true: ["border-success", CircleCheck, "text-success"],
  false: ["border-error bg-error/10", CircleX, "text-error"],
  null: ["border-base-300", Minus, ""],
} as const;

/** The spaces and the way in as they are drawn: what there is, and whether that is enough. What is
 * not comes first. */
export function SpacesList() {
  const { solution } = useScreen();
  const lights = useLights();
  const pointed = useShown(({ lit }) => lit);
  const access = solution?.access;
  if (!access) return null;
  const rows = [
    ...access.spaces.map((space, i) => ({
      ...space,
      key: `space ${i}`,
      told: `${space.text} ${space.state}`.trim(),
    })),
    ...access.ways.map((way) => ({
      name: "Way from the door to the shower",
      key: "way",
      told: way.text,
      asked: "",
      enough: way.enough as boolean | null,
    })),
  ];
  const order = [false, true, null];
  rows.sort((a, b) => order.indexOf(a.enough) - order.indexOf(b.enough));
  return (
    <ul className="space-y-1" aria-label="Spaces">
      {rows.map((row) => {
        const [box, Icon, ink] = BOX[`${row.enough}` as keyof typeof BOX];
        return (
          <li
            key={row.key}
            title={row.asked || undefined}
            className={`border-l-4 rounded-r-box px-2 py-1.5 flex gap-2 items-start ${box} ${pointed === row.key ? "outline-2 outline-info" : ""}`}
            {...lights(row.key)}
          >
            <Icon size={20} aria-hidden className={`mt-0.5 shrink-0 ${ink}`} />
            <span className="flex-1 leading-tight">
              {row.name}
              <span className="sr-only">
                {row.enough === false ? ": not enough" : row.enough ? ": enough" : ""}
              </span>
            </span>
            <strong className="text-right leading-tight">{row.told}</strong>
          </li>
        );
      })}
    </ul>
  );
}
