import type { Working } from "../api/generated/solution";
import { useScreen } from "../job/context";

/** Shows the working of something that is no figure, such as a line or a task. */
export function WhyButton({ of, text, working }: { of: string; text: string; working: Working }) {
  const { why } = useScreen();
  return (
    <button
      type="button"
      className="btn btn-ghost h-11 px-2 underline decoration-dotted underline-offset-4"
      aria-label={`Why: ${of}`}
      onClick={() => why({ label: of, text, working })}
    >
      why?
    </button>
  );
}
