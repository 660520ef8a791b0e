import { useQuery } from "@tanstack/react-query";
import { api, type Problem } from "../../api/client";
import type { AsBuilt } from "../../api/generated/as-built";
import { useScreen } from "../../job/context";
import { useShown } from "../../job/shown";
import { orLast } from "../../ui/cabinet";
import { useEntries } from "../log/useLog";

/** The floor as it was built, of the layer that is looked at: judged anew as the log grows and as
 * the plan is saved. */
export function useBuilt() {
  const { jobId, standing, plan } = useScreen();
  const { data: log } = useEntries(jobId);
  const layer = useShown((shown) => shown.layer);
  const newest = useShown((shown) => shown.newest);
  return useQuery<AsBuilt, Problem>({
    queryKey: ["as-built", jobId, layer, newest, log?.last, standing.is === "kept" ? plan : null],
    queryFn: () =>
      orLast(`as-built ${jobId} ${layer} ${newest}`, () => api.asBuilt(jobId, layer, newest)),
    placeholderData: (last) => last,
    networkMode: "always",
    retry: false,
  });
}
