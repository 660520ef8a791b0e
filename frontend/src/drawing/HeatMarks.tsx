import { useId } from "react";
import type { HeatingResult } from "../api/generated/solution";
import { HaloText } from "./HaloText";
import { path, type View } from "./view";

/** The cable's way from its cold joint to its end, what it keeps from, and the sensor. */
export function HeatMarks({ view, heating }: { view: View; heating: HeatingResult }) {
  const id = useId();
  const sensor = heating.sensor.at(-1);
  const at = sensor && view.at(sensor);
  const end = view.at(heating.end);
  return (
    <g data-part="heating" pointerEvents="none">
      <defs>
        <pattern
          id={`${id}-free`}
          width={7}
          height={7}
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <path d="M0 0V7" stroke="var(--ink)" strokeWidth={1} opacity={0.5} />
        </pattern>
      </defs>
      {heating.kept_free.map((shape, i) => (
        <path
          key={i}
          d={path(shape.map(view.at))}
          fill={`url(#${id}-free)`}
          stroke="var(--ink)"
          strokeWidth={0.8}
          strokeDasharray="4 3"
        />
      ))}
      {heating.mats.map((strip, i) => (
        <path
          key={i}
          data-mat
          d={path(strip.map(view.at))}
          fill="var(--hazard)"
          fillOpacity={0.18}
          stroke="var(--hazard)"
          strokeWidth={2}
        />
      ))}
      {heating.route.length > 1 && (
        <>
          <path
            data-cable
            d={path(heating.route.map(view.at), false)}
            fill="none"
            stroke="var(--hazard)"
            strokeWidth={2.4}
            strokeLinecap="round"
            strokeLinejoin="round"
          />
          <circle cx={end[0]} cy={end[1]} r={5} fill="var(--hazard)" stroke="var(--paper)" />
        </>
      )}
      {heating.sensor.length > 1 && (
        <path
          d={path(heating.sensor.map(view.at), false)}
          fill="none"
          stroke="var(--ink)"
          strokeWidth={2}
          strokeDasharray="3 4"
        />
      )}
      {at && heating.sensor.length > 1 && (
        <g data-sensor>
          <circle
            cx={at[0]}
            cy={at[1]}
            r={5}
            fill="var(--paper)"
            stroke="var(--ink)"
            strokeWidth={2}
          />
          <HaloText at={[at[0], at[1] - 14]} ink="var(--ink)" size={14}>
            sensor
          </HaloText>
        </g>
      )}
    </g>
  );
}
