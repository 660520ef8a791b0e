import type { Figure, Finding, Solution } from "../api/generated/solution";
import { useScreen } from "../job/context";

/** The figures the installer acts on, always in sight; each tells why when it is pressed. */
export function KeyFigures() {
  const { solution, refused } = useScreen();
  const figures = solution?.figures;
  const codes = new Set(solution?.findings.filter((f) => f.severity === "stop").map((f) => f.code));
  const caution = new Set(
    solution?.findings.filter((f) => f.severity === "caution").map((f) => f.code),
  );
  const tone = (...of: Finding["code"][]) =>
    of.some((code) => codes.has(code))
      ? "text-error"
      : of.some((code) => caution.has(code))
        ? "text-warning"
        : "";
  return (
    <section
      aria-label="Key figures"
      aria-live="polite"
      // In one row; with larger letters in as many as they need.
      className={`flex flex-wrap border-b border-base-300 bg-base-100 ${refused ? "opacity-60" : ""}`}
    >
      <Cell
        figure={figures?.recess_needed}
        tone={tone("recess_over_available", "slab_to_be_cut")}
        besides={solution?.assumed.text}
        big
      />
      <Cell figure={figures?.drop_at_drain} tone="" />
      <Falls solution={solution} steep={tone("fall_over_most")} flat={tone("fall_under_least")} />
      <Cell figure={figures?.step_at_entry} tone={tone("step_over_limit")} />
      <a
        href="#findings"
        className="hidden lg:flex flex-[1.1_1_9rem] flex-col justify-center px-4 py-2 border-l border-base-300 hover:bg-base-200"
      >
        <span className="text-sm">Open findings</span>
        <span className="text-2xl font-bold leading-tight">
          {refused ? "—" : (solution?.findings.length ?? "…")}
        </span>
        <span className="text-sm">{solution?.summary}</span>
      </a>
    </section>
  );
}

function Cell({
  figure,
  tone,
  besides,
  big,
}: {
  figure?: Figure;
  tone: string;
  besides?: string;
  big?: boolean;
}) {
  const { why } = useScreen();
  return (
    <button
      type="button"
      disabled={!figure}
      onClick={() => figure && why(figure)}
      data-figure={figure?.label}
      className={`${big ? "lg:flex-[1.5_1_12rem]" : "lg:flex-[1_1_9rem]"} flex-[1_1_5.4rem] text-left px-1.5 lg:px-4 py-1 lg:py-2 border-l border-base-300 first:border-l-0 hover:bg-base-200 min-h-14 lg:min-h-20 min-w-0`}
    >
      <span className="text-sm flex justify-between gap-2">
        <span className="lg:hidden">{figure?.label.split(" ")[0] ?? "…"}</span>
        <span className="max-lg:hidden">{figure?.label ?? "…"}</span>
        <span className="max-lg:hidden underline decoration-dotted underline-offset-4 decoration-2">
          why?
        </span>
      </span>
      <span
        className={`block font-bold leading-tight ${big ? "text-lg lg:text-3xl" : "text-lg lg:text-2xl"} ${tone}`}
      >
        {figure?.text ?? "…"}
      </span>
      <span className="max-lg:hidden block text-sm leading-tight">
        {[figure?.under, besides].filter(Boolean).join(" · ")}
      </span>
    </button>
  );
}

function Falls({
  solution,
  steep,
  flat,
}: {
  solution: Solution | null;
  steep: string;
  flat: string;
}) {
  const { why } = useScreen();
  const steepest = solution?.figures.fall_steepest;
  const flattest = solution?.figures.fall_flattest;
  const even = steepest?.text === flattest?.text;
  return (
    <button
      type="button"
      disabled={!steepest}
      onClick={() => steepest && why(steepest)}
      data-figure="Falls"
      className="flex-[1.2_1_6rem] lg:flex-[1.4_1_13rem] text-left px-1.5 lg:px-4 py-1 lg:py-2 border-l border-base-300 hover:bg-base-200 min-h-14 lg:min-h-20 min-w-0"
    >
      <span className="text-sm flex justify-between gap-2">
        <span className="lg:hidden">Falls</span>
        <span className="max-lg:hidden">
          {even ? "Fall of every plane" : "Steepest to flattest fall"}
        </span>
        <span className="max-lg:hidden underline decoration-dotted underline-offset-4 decoration-2">
          why?
        </span>
      </span>
      <span className="block text-base lg:text-2xl font-bold leading-tight">
        <span className={steep || (even ? flat : "")}>{steepest?.text ?? "…"}</span>
        {!even && (
          <>
            <span className="lg:text-lg font-normal"> to </span>
            <span className={flat}>{flattest?.text}</span>
          </>
        )}
      </span>
      <span className="max-lg:hidden block text-sm leading-tight">{steepest?.under ?? "…"}</span>
    </button>
  );
}
