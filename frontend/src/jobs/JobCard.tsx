import { useQuery } from "@tanstack/react-query";
import { Copy, Download, History, Trash2 } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import { api, type ListedJob } from "../api/client";
import type { Card } from "../api/generated/card";
import { unbroken } from "../api/unbroken";
import { fitted, path } from "../drawing/view";

const [WIDE, TALL] = [168, 132];
const STEPS: [Intl.RelativeTimeFormatUnit, number][] = [
  ["day", 86_400],
  ["hour", 3_600],
  ["minute", 60],
];

/** How long ago, in words; a date where that is more than a month. */
function ago(time: string): string {
  const past = (Date.now() - new Date(time).getTime()) / 1000;
  if (past > 30 * 86_400) return new Date(time).toLocaleDateString();
  const [unit, size] = STEPS.find(([, seconds]) => past >= seconds) ?? ["second", 1];
  if (unit === "second") return "just now";
  return new Intl.RelativeTimeFormat("en").format(-Math.floor(past / size), unit);
}

interface Props {
  job: ListedJob;
  onCopy: () => void;
  onDelete: () => void;
}

/** A job with a small drawing of its floor, what it needs and what is open. */
export function JobCard({ job, onCopy, onDelete }: Props) {
  const { seen, box } = useSeen();
  const worked = useQuery({
    enabled: seen && !job.current,
    queryKey: ["card", job.id, job.changed_at],
    queryFn: () => api.card(job.id),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const current = job.current ? job.card : worked.data;
  // What an older plan looked like is drawn pale, and none of its figures is told.
  const drawn = current ?? job.card;
  const action = "btn btn-ghost btn-square size-11";
  return (
    <li
      className="border border-base-300 rounded-box overflow-hidden flex flex-col [content-visibility:auto] [contain-intrinsic-size:auto_14rem]"
      ref={box}
      data-job={job.id}
    >
      <Link to={`/jobs/${job.id}/room`} className="flex gap-4 p-3 flex-1 hover:bg-base-200">
        <svg width={WIDE} height={TALL} className="shrink-0" aria-hidden>
          {drawn && (
            <g opacity={current ? 1 : 0.4}>
              <Thumb card={drawn} />
            </g>
          )}
        </svg>
        <span className="min-w-0 flex flex-col">
          <span className="text-lg font-semibold leading-tight">{job.name}</span>
          {current && (
            <>
              <span className="mt-1">
                Recess <strong>{unbroken(current.recess)}</strong>
              </span>
              <span className={current.stops ? "text-error font-semibold" : ""}>
                {current.summary}
              </span>
            </>
          )}
          {current?.note && (
            <span className="text-sm leading-snug mt-1 line-clamp-3">{current.note}</span>
          )}
          <time
            className="text-sm mt-auto pt-1"
            dateTime={job.changed_at}
            title={new Date(job.changed_at).toLocaleString()}
          >
            changed {ago(job.changed_at)}
          </time>
        </span>
      </Link>
      <div className="flex justify-end gap-3 pr-1 border-t border-base-300">
        <a
          className={action}
          href={`/api/jobs/${job.id}/plan-file`}
          aria-label={`Download ${job.name}`}
          title="Download the plan file"
        >
          <Download size={20} aria-hidden />
        </a>
        <a
          className={action}
          href={`/api/jobs/${job.id}/job-file`}
          aria-label={`Download ${job.name} with its history`}
          title="Download it with its history"
        >
          <History size={20} aria-hidden />
        </a>
        <button
          type="button"
          className={action}
          aria-label={`Copy ${job.name}`}
          title="Make a copy"
          onClick={onCopy}
        >
          <Copy size={20} aria-hidden />
        </button>
        <button
          type="button"
          className={action}
          aria-label={`Delete ${job.name}`}
          title="Delete; it can be brought back"
          onClick={onDelete}
        >
          <Trash2 size={20} aria-hidden />
        </button>
      </div>
    </li>
  );
}

/** Whether an element has come near what is on screen: jobs far down are not worked out yet. */
function useSeen() {
  const [seen, setSeen] = useState(false);
  const box = useRef<HTMLLIElement>(null);
  useEffect(() => {
    const watch = new IntersectionObserver(
      (entries) => {
        if (entries.some((entry) => entry.isIntersecting)) setSeen(true);
      },
      { rootMargin: "400px" },
    );
    if (box.current) watch.observe(box.current);
    return () => watch.disconnect();
  }, []);
  return { seen, box };
}

/** The room with the shower's depths, as small as a stamp. */
function Thumb({ card }: { card: Card }) {
  const view = fitted(card.room, WIDE, TALL, 6);
  return (
    <>
      <path
        d={path(card.room.map(view.at))}
        fill="var(--land)"
        stroke="var(--ink)"
        strokeWidth={3}
      />
      <path d={path(card.shower.map(view.at))} fill="var(--paper)" />
      {card.planes.map((plane) => (
        <path
          key={String(plane)}
          d={path(plane.map(view.at))}
          fill="var(--sounding)"
          fillOpacity={0.25}
          stroke="var(--sounding)"
          strokeWidth={0.8}
        />
      ))}
      <path
        d={path(card.shower.map(view.at))}
        fill="none"
        stroke="var(--sounding)"
        strokeWidth={1.6}
      />
      {card.rims.map((rim) => (
        <path key={String(rim)} d={path(rim.map(view.at))} fill="var(--ink)" />
      ))}
      {card.entries.map(([a, b]) => (
        <path
          key={String(a)}
          d={path([view.at(a), view.at(b)], false)}
          stroke="var(--entry)"
          strokeWidth={3}
        />
      ))}
    </>
  );
}
