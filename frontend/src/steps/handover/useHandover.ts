import { useQuery } from "@tanstack/react-query";
import { api, type Problem } from "../../api/client";
import type { Handover } from "../../api/generated/hand-over";
import { useScreen } from "../../job/context";
import { orLast } from "../../ui/cabinet";
import { useEntries } from "../log/useLog";

/** What is handed over and what is still open, as the log and the saved plan say it. */
export function useHandover() {
  const { jobId, standing, plan } = useScreen();
  const { data: log } = useEntries(jobId);
  return useQuery<Handover, Problem>({
    queryKey: ["hand-over", jobId, log?.last, standing.is === "kept" ? plan : null],
    queryFn: () => orLast(`hand-over ${jobId}`, () => api.handOver(jobId)),
    placeholderData: (last) => last,
    networkMode: "always",
    retry: false,
  });
}
