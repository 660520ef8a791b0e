import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { api, type Head, type Problem } from "../api/client";
import type { Figure, Section } from "../api/generated/solution";
import { Ground } from "../drawing/Ground";
import { Pins } from "../drawing/Pins";
import { Places } from "../drawing/Places";
import { type Handle, PlanChart, snapLines } from "../drawing/PlanChart";
import { Runoff } from "../drawing/Runoff";
import { SectionDrawing } from "../drawing/SectionDrawing";
import type { View, XY } from "../drawing/view";
import { DepthStep } from "../steps/depth/DepthStep";
import { DrainStep } from "../steps/drain/DrainStep";
import { handlesFor } from "../steps/handles";
import { LevelsStep } from "../steps/levels/LevelsStep";
import { useStraightedge } from "../steps/levels/useStraightedge";
import { PinsStep } from "../steps/pins/PinsStep";
import { RoomStep } from "../steps/room/RoomStep";
import { STEPS, type StepId, stepState } from "../steps/steps";
import { WaterStep } from "../steps/water/WaterStep";
import { Findings } from "../ui/Findings";
import { KeyFigures } from "../ui/KeyFigures";
import { Modal } from "../ui/Modal";
import { Why } from "../ui/Why";
import { ScreenContext, type Shown } from "./context";
import { Header } from "./Header";
import { KeyboardHelp } from "./KeyboardHelp";
import { type Job, useJob } from "./useJob";

const PARTS = {
  room: RoomStep,
  levels: LevelsStep,
  drain: DrainStep,
  depth: DepthStep,
  water: WaterStep,
  pins: PinsStep,
};
const calm = () => window.matchMedia("(prefers-reduced-motion: reduce)").matches;

export function JobScreen() {
  const { jobId = "" } = useParams();
  const head = useQuery<Head, Problem>({
    queryKey: ["head", jobId],
    queryFn: () => api.head(jobId),
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 0,
    retry: (count, error) => error.status === 0 && count < 5,
  });
  if (head.isPending) return <p className="p-8 text-lg">Opening the job…</p>;
  if (head.isError) {
    return (
      <main className="p-8 space-y-4">
        <h1 className="text-2xl font-bold">{head.error.title}</h1>
        <p>{head.error.message}</p>
        <Link className="btn h-11" to="/">
          To the jobs
        </Link>
      </main>
    );
  }
  return <OpenJob key={jobId} head={head.data} />;
}

function useKeys(job: Job, jobId: string, help: () => void) {
  const navigate = useNavigate();
  useEffect(() => {
    function pressed(event: KeyboardEvent) {
      const field = (event.target as HTMLElement).closest("input, textarea, select, dialog");
      const command = event.ctrlKey || event.metaKey;
      const key = event.key.toLowerCase();
      if (command && key === "z") {
        // Inside a field that is being typed in, undo belongs to the text.
        if (field instanceof HTMLInputElement && field.dataset.typing) return;
        event.preventDefault();
        void (event.shiftKey ? job.redo() : job.undo());
      } else if (command && key === "y") {
        event.preventDefault();
        void job.redo();
      } else if (!field && !command && key === "?") help();
      else if (!field && !command && event.altKey === false && /^[1-9]$/.test(key)) {
        const step = STEPS[Number(key) - 1];
        if (step) void navigate(`/jobs/${jobId}/${step.id}`);
      }
    }
    window.addEventListener("keydown", pressed);
    return () => window.removeEventListener("keydown", pressed);
  }, [job, jobId, navigate, help]);
}

function OpenJob({ head }: { head: Head }) {
  const job = useJob(head);
  const { step: asked } = useParams();
  const step: StepId = STEPS.find((s) => s.id === asked)?.id ?? "room";
  const [figure, setFigure] = useState<Figure | null>(null);
  const [helping, setHelping] = useState(false);
  const [picked, pick] = useState<[number, number] | null>(null);
  const [shown, setShown] = useState<Shown>(() => ({ corridor: false, running: !calm() }));
  const [cut, setCut] = useState<[XY, XY] | null>(null);
  const { ask } = job;
  useEffect(() => {
    ask({ parts: step === "water" || step === "pins" ? [step] : [], cut });
  }, [ask, step, cut]);
  useKeys(job, head.job_id, () => setHelping(true));
  useEffect(() => {
    document.title = `${job.plan.job.name} · Calm Basin`;
  }, [job.plan.job.name]);
  const Part = PARTS[step];
  const { plan, solution, refused } = job;
  const levelling = step === "levels";
  const floor = levelling ? solution?.survey.floor : null;
  const straightedge = useStraightedge(plan, floor ?? null);
  const laid: Handle[] = (cut ? ([0, 1] as const) : []).map((end) => ({
    key: `cut-${end}`,
    label: `${end === 0 ? "First" : "Other"} end of the section`,
    at: cut?.[end] ?? [0, 0],
    kind: "corner",
    snap: snapLines(plan, "room"),
    place: (to) => setCut((old) => old && (end === 0 ? [to, old[1]] : [old[0], to])),
  }));
  const overlay = (view: View) =>
    solution && (
      <>
        {step === "drain" && shown.corridor && <Places solution={solution} view={view} />}
        {step === "water" && <Runoff solution={solution} view={view} running={shown.running} />}
        {step === "pins" && <Pins solution={solution} view={view} />}
      </>
    );
  return (
    <ScreenContext.Provider
      value={{
        ...job,
        why: setFigure,
        jobId: head.job_id,
        picked,
        pick,
        shown,
        show: (part) => setShown((old) => ({ ...old, ...part })),
      }}
    >
      <div
        className="min-h-full lg:h-full flex flex-col bg-base-100"
        data-agrees={job.agrees ? "yes" : "no"}
      >
        <Header jobId={head.job_id} onHelp={() => setHelping(true)} />
        <div className="flex-1 min-h-0 flex flex-col lg:flex-row pb-18 lg:pb-0">
          <StepRail jobId={head.job_id} current={step} job={job} />
          <main className="flex-1 min-w-0 min-h-0 flex flex-col">
            <h1 className="sr-only">
              {plan.job.name}: {STEPS.find((s) => s.id === step)?.label}
            </h1>
            <div className="sticky top-0 z-10 lg:static">
              <KeyFigures />
            </div>
            <div className="flex-1 min-h-0 flex flex-col lg:flex-row">
              <div
                className={`lg:flex-1 min-w-0 flex flex-col ${refused ? "opacity-60" : ""}`}
                data-ready={solution && !refused ? "yes" : undefined}
              >
                <div className="h-[24rem] lg:h-auto lg:flex-[8] min-h-0">
                  {solution && (
                    <PlanChart
                      plan={plan}
                      solution={solution}
                      handles={[
                        ...(floor ? straightedge.handles : handlesFor(step, plan)),
                        ...(levelling ? [] : laid),
                      ]}
                      focus={step === "room" || levelling || plan.shower.rest ? "room" : "shower"}
                      labelled={step !== "water" && step !== "pins"}
                      overlay={overlay}
                      ground={
                        levelling
                          ? (view) =>
                              floor && (
                                <Ground
                                  room={plan.room.outline}
                                  floor={floor}
                                  view={view}
                                  edge={straightedge.edge}
                                />
                              )
                          : undefined
                      }
                      picked={levelling ? picked : null}
                      onPick={levelling ? pick : undefined}
                      onMove={job.change}
                      onHold={job.hold}
                    />
                  )}
                </div>
                <div className="relative h-64 lg:h-auto lg:flex-[5] min-h-0 border-t border-base-300">
                  {solution && <SectionDrawing solution={solution} own={cut !== null} />}
                  {solution?.section && !levelling && (
                    <button
                      type="button"
                      className="btn h-11 px-3 text-sm font-medium absolute right-2 bottom-1 bg-base-100"
                      onClick={() => setCut(cut ? null : ends(solution.section))}
                    >
                      {cut ? "Back to entry and drain" : "Cut along another line"}
                    </button>
                  )}
                </div>
              </div>
              <aside className="relative lg:w-[25rem] shrink-0 lg:overflow-y-auto lg:border-l border-base-300 p-4 space-y-5 bg-base-200/50">
                {job.restored && (
                  <p className="border-l-4 border-info bg-info/10 rounded-r-box p-3" role="status">
                    What had not been saved when this window was last closed is back.
                  </p>
                )}
                <div id="findings">
                  <Findings />
                </div>
                <Part />
              </aside>
            </div>
          </main>
        </div>
      </div>
      {figure && <Why figure={figure} onClose={() => setFigure(null)} />}
      {helping && <KeyboardHelp onClose={() => setHelping(false)} />}
      {job.conflict && (
        <Modal title="This job was changed in another window">
          <p className="mt-2">
            Both plans are kept. Keep yours on top, and the other is one undo away; or take the
            other, and yours becomes a job of its own.
          </p>
          <div className="flex flex-wrap gap-2 mt-4">
            <button type="button" className="btn btn-info h-11" onClick={() => void job.keepMine()}>
              Keep mine on top
            </button>
            <button type="button" className="btn h-11" onClick={() => void job.takeTheirs()}>
              Take the other, keep mine as a copy
            </button>
          </div>
        </Modal>
      )}
    </ScreenContext.Provider>
  );
}

/** A section's line within the shower, so that its ends can be seen and taken hold of. */
function ends(section: Section | null): [XY, XY] | null {
  if (!section) return null;
  const at = (share: number): XY => [
    section.start[0] + (section.end[0] - section.start[0]) * share,
    section.start[1] + (section.end[1] - section.start[1]) * share,
  ];
  const [from, to] = section.shower[1] > section.shower[0] ? section.shower : [0, section.length];
  return [
    at((from + (to - from) * 0.12) / section.length),
    at((to - (to - from) * 0.12) / section.length),
  ];
}

const DOT = { stop: "bg-error", caution: "bg-warning", clear: "bg-success" };
const WORD = { stop: "something to stop for", caution: "a caution", clear: "clear" };

function StepRail({ jobId, current, job }: { jobId: string; current: StepId; job: Job }) {
  return (
    <nav
      aria-label="Steps of the work"
      className="fixed lg:static bottom-0 inset-x-0 z-20 flex lg:flex-col lg:w-24 shrink-0 bg-base-200 border-t lg:border-t-0 lg:border-r border-base-300"
    >
      {STEPS.map((step, i) => {
        const state = stepState(job.solution, step.fields);
        const Icon = step.icon;
        const on = step.id === current;
        return (
          <Link
            key={step.id}
            to={`/jobs/${jobId}/${step.id}`}
            aria-current={on ? "step" : undefined}
            className={`relative flex-1 lg:flex-none flex flex-col items-center justify-center gap-0.5 min-h-18 lg:min-h-22 px-1 text-center leading-tight border-t-4 lg:border-t-0 lg:border-l-4 ${on ? "border-info bg-base-100 font-bold" : "border-transparent hover:bg-base-100"}`}
          >
            <Icon size={22} aria-hidden />
            <span className="text-[0.95rem]">
              {i + 1} {step.label}
            </span>
            {state && (
              <span
                className={`absolute top-2 right-2 size-3 rounded-full ${DOT[state]} ${state === "stop" ? "rounded-none rotate-45" : ""}`}
              >
                <span className="sr-only">{WORD[state]}</span>
              </span>
            )}
          </Link>
        );
      })}
    </nav>
  );
}
