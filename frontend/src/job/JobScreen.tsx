import { useQuery } from "@tanstack/react-query";
import { type Dispatch, type SetStateAction, useEffect, useMemo, useRef, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { api, type Head, type Problem, type Solution } from "../api/client";
import type { Section } from "../api/generated/solution";
import { type Handle, snapLines } from "../drawing/handles";
import { PlanChart } from "../drawing/PlanChart";
import { SectionDrawing } from "../drawing/SectionDrawing";
import type { XY } from "../drawing/view";
import { OPEN_PHASES, ownOf, STEPS } from "../steps";
import type { Step } from "../steps/step";
import { orLast } from "../ui/cabinet";
import { Findings } from "../ui/Findings";
import { KeyFigures } from "../ui/KeyFigures";
import { Masthead } from "../ui/Masthead";
import { Why } from "../ui/Why";
import { AssumedBar } from "./AssumedBar";
import { type Answer, answerOf, lastAnswer } from "./answer";
import { ScreenContext, useScreen, type Worked } from "./context";
import { type Found, findDraft } from "./draft";
import { Header } from "./Header";
import { Kept, Parted } from "./Keeping";
import { KeyboardHelp, singleKeys } from "./KeyboardHelp";
import { atRest } from "./keeper";
import { type Moved, MovedNote } from "./MovedNote";
import { Panes } from "./Panes";
import { Rail } from "./Rail";
import { SkipLinks } from "./SkipLinks";
import { ShownContext, useFirstShown } from "./shown";
import { type Job, useJob } from "./useJob";
import { useReach } from "./useReach";
import { Walk } from "./Walk";

export function JobScreen() {
  const { jobId = "" } = useParams();
  const head = useQuery<Opened, Problem>({
    queryKey: ["head", jobId],
    queryFn: () => opened(jobId),
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 0,
    networkMode: "always",
    retry: (count, error) => error.status === 0 && count < 5,
  });
  if (head.isPending) return <p className="p-8 text-lg">Opening the job…</p>;
  if (head.isError) {
    const sound = head.error.sound?.revision;
    const made = new Date(head.error.sound?.made_at ?? 0);
    return (
      <>
        <Masthead />
        <main className="max-w-3xl mx-auto px-5 py-8 space-y-4">
          <h1 className="text-2xl font-bold">{head.error.title}</h1>
          <p className="text-lg">{head.error.message}</p>
          <div className="flex flex-wrap gap-2">
            {sound && (
              <button
                type="button"
                className="btn btn-info h-11"
                onClick={() => void api.goBack(jobId, sound).then(() => head.refetch())}
              >
                Open it as it was{" "}
                {made.toLocaleString(undefined, { dateStyle: "medium", timeStyle: "short" })}
              </button>
            )}
            <Link className="btn h-11" to="/keeping">
              Backups
            </Link>
            <Link className="btn h-11" to="/">
              To the jobs
            </Link>
          </div>
        </main>
      </>
    );
  }
  return <OpenJob key={jobId} {...head.data} />;
}

interface Opened {
  head: Head;
  found: Found;
  last: Answer | null;
}

/** Where a job stands, what of it had not been saved, and what was answered of it last. */
async function opened(jobId: string): Promise<Opened> {
  await atRest(jobId);
  // Without a connection the job opens as this browser had it last.
  const kept = lastAnswer(jobId);
  const head = await orLast(`job ${jobId}`, () => api.head(jobId));
  const found = await findDraft(head);
  return { head, found, last: answerOf(found.draft?.plan ?? head.plan, await kept) };
}

function useKeys(job: Job, jobId: string, current: Step, help: () => void) {
  const navigate = useNavigate();
  // Where the last key led: a second one goes on from there, before the step is drawn.
  const at = useRef(current);
  at.current = current;
  useEffect(() => {
    function pressed(event: KeyboardEvent) {
      const field = (event.target as HTMLElement).closest("input, textarea, select, dialog");
      const command = event.ctrlKey || event.metaKey;
      const key = event.key.toLowerCase();
      const to = (step: Step | undefined) => {
        if (!step) return;
        at.current = step;
        void navigate(`/jobs/${jobId}/${step.id}`);
      };
      if (command && key === "z") {
        // Inside a field that is being typed in, undo belongs to the text.
        if (field instanceof HTMLInputElement && field.dataset.typing) return;
        event.preventDefault();
        void (event.shiftKey ? job.redo() : job.undo());
      } else if (command && key === "y") {
        event.preventDefault();
        void job.redo();
      } else if (field || command || event.altKey || !singleKeys()) return;
      else if (key === "?") help();
      else if (key === "," || key === ".")
        to(STEPS[STEPS.indexOf(at.current) + (key === "." ? 1 : -1)]);
      else if (/^[1-9]$/.test(key)) {
        const phase = OPEN_PHASES[Number(key) - 1];
        to(STEPS.find((step) => step.phase === phase));
      }
    }
    window.addEventListener("keydown", pressed);
    return () => window.removeEventListener("keydown", pressed);
  }, [job, jobId, navigate, help]);
}

function OpenJob({ head, found, last }: Opened) {
  const { step: asked } = useParams();
  const step = STEPS.find((one) => one.id === asked) ?? (STEPS[0] as Step);
  const [cut, setCut] = useState<[XY, XY] | null>(null);
  const question = useMemo(() => {
    const parts = step.part ? [step.part] : [];
    const later = step.later === true;
    return { parts: later ? [] : parts, later: later ? parts : [], cures: true, cut };
  }, [step, cut]);
  const job = useJob(head, found, last, question);
  const [figure, setFigure] = useState<Worked | null>(null);
  const [helping, setHelping] = useState(false);
  const [picked, pick] = useState<[number, number] | null>(null);
  const shown = useFirstShown();
  const reach = useReach(head.job_id);
  useKeys(job, head.job_id, step, () => setHelping(true));
  useEffect(() => {
    document.title = `${job.plan.job.name} · Calm Basin`;
  }, [job.plan.job.name]);
  const { plan, solution, refused } = job;
  const { Panel } = step;
  const below = step.below?.(plan);
  return (
    <ShownContext.Provider value={shown}>
      <ScreenContext.Provider
        value={{
          ...job,
          why: setFigure,
          reach,
          jobId: head.job_id,
          step,
          picked,
          pick,
        }}
      >
        <div
          className="min-h-full lg:h-full flex flex-col bg-base-100"
          data-agrees={job.agrees ? "yes" : "no"}
        >
          <SkipLinks />
          <Header jobId={head.job_id} onHelp={() => setHelping(true)} />
          <div className="flex-1 min-h-0 flex flex-col lg:flex-row pb-16 lying:pb-11 lg:pb-0">
            <Rail current={step} />
            <main className="flex-1 min-w-0 min-h-0 flex flex-col">
              <h1 className="sr-only">
                {plan.job.name}: {step.label}
              </h1>
              <div className="sticky top-0 z-15 lg:static lying:static">
                <KeyFigures />
              </div>
              <div className="flex-1 min-h-0 flex flex-col lg:flex-row lying:flex-row">
                <div
                  className={`lg:flex-1 lying:flex-1 lying:sticky lying:top-0 lying:self-start min-w-0 ${refused ? "opacity-60" : ""}`}
                  data-ready={solution && !refused ? "yes" : undefined}
                >
                  {step.Drawing ? (
                    <div className="h-55 lying:h-[calc(100dvh-2.75rem)] lg:h-full min-h-0">
                      <step.Drawing />
                    </div>
                  ) : (
                    <Panes
                      key={below?.label}
                      lower={below?.label}
                      chart={
                        solution && <Chart key={step.id} step={step} cut={cut} setCut={setCut} />
                      }
                      section={
                        below ? (
                          <below.Drawing />
                        ) : (
                          solution && <Cut solution={solution} cut={cut} setCut={setCut} />
                        )
                      }
                    />
                  )}
                </div>
                <aside className="lg:w-[25rem] lying:w-1/2 shrink-0 min-h-0 flex flex-col lg:border-l border-base-300 bg-base-200/50">
                  <Kept job={job} aside={found.aside} />
                  <section
                    key={step.id}
                    aria-label={`${step.label}: findings and fields`}
                    // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls is reached by keyboard
                    tabIndex={0}
                    className="relative flex-1 min-h-0 lg:overflow-y-auto"
                    data-scrolls
                  >
                    {job.notEdited && (
                      <p className="border-l-4 border-error bg-error/10 p-3" role="alert">
                        Not done: {job.notEdited}
                      </p>
                    )}
                    <Findings />
                    <section
                      aria-label={step.label}
                      className="relative p-3 lg:p-4 space-y-5"
                      data-panel={step.id}
                    >
                      <AssumedBar />
                      <Panel />
                    </section>
                  </section>
                  <Walk />
                </aside>
              </div>
            </main>
          </div>
        </div>
        {figure && <Why figure={figure} onClose={() => setFigure(null)} />}
        {helping && <KeyboardHelp onClose={() => setHelping(false)} />}
        <Parted job={job} />
      </ScreenContext.Provider>
    </ShownContext.Provider>
  );
}

interface CutProps {
  cut: [XY, XY] | null;
  setCut: Dispatch<SetStateAction<[XY, XY] | null>>;
}

/** The chart with what the open step shows on it. */
function Chart({ step, cut, setCut }: CutProps & { step: Step }) {
  const { plan, solution, change, hold } = useScreen();
  const chart = step.useChart(plan, solution);
  const [moved, setMoved] = useState<Moved | null>(null);
  const laid: Handle[] = (cut ? ([0, 1] as const) : []).map((end) => ({
    key: `cut-${end}`,
    label: `${end === 0 ? "First" : "Other"} end of the section`,
    at: cut?.[end] ?? [0, 0],
    kind: "corner",
    snap: snapLines(plan, "room"),
    place: (to) => setCut((old) => old && (end === 0 ? [to, old[1]] : [old[0], to])),
  }));
  if (!solution) return null;
  return (
    <>
      <PlanChart
        plan={plan}
        solution={solution}
        {...chart}
        findings={ownOf(step, solution.findings)}
        handles={chart.ground ? chart.handles : [...chart.handles, ...laid]}
        labelled={!chart.bare}
        onMove={change}
        onHold={hold}
        onMoved={({ label, move }, from, to) => move && setMoved({ label, from, to })}
        onTouched={({ label }) => setMoved({ label, touched: true })}
      />
      <MovedNote moved={moved} />
    </>
  );
}

function Cut({ solution, cut, setCut }: CutProps & { solution: Solution }) {
  const [trueScale, setTrueScale] = useState(false);
  return (
    <>
      <SectionDrawing solution={solution} own={cut !== null} trueScale={trueScale} />
      {solution.section && (
        <button
          type="button"
          aria-pressed={trueScale}
          className="btn h-11 px-3 text-sm font-medium absolute right-2 bottom-13 lg:right-[11.6rem] lg:bottom-1 bg-base-100"
          onClick={() => setTrueScale(!trueScale)}
        >
          {trueScale ? "Heights larger" : "True scale"}
        </button>
      )}
      {solution.section && (
        <button
          type="button"
          className="btn h-11 px-3 text-sm font-medium absolute right-2 bottom-1 bg-base-100"
          onClick={() => setCut(cut ? null : ends(solution.section))}
        >
          {cut ? "Back to entry and drain" : "Cut along another line"}
        </button>
      )}
    </>
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
