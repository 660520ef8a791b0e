import { DaysChart } from "../../drawing/DaysChart";
import { useScreen } from "../../job/context";
import { useNow } from "../../ui/moment";

/** The schedule in place of chart and section. */
export function Schedule() {
  const { solution } = useScreen();
  const result = solution?.days;
  const now = useNow(result?.first_day ?? "");
  if (!result) return null;
  if (result.tasks.length === 0) return <p className="p-4">{result.none_because}</p>;
  return <DaysChart result={result} now={now} />;
}
