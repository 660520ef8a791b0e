import { useQuery, useQueryClient } from "@tanstack/react-query";
import { forget, keep, recall } from "../../ui/storage";

/** A reading that was taken and is not in the log yet, as it was typed. */
export interface Taken {
  at: [number, number];
  text: string;
}

/** What was read and not written into the log yet; it survives the window. */
export function useDraft(jobId: string) {
  const client = useQueryClient();
  const queryKey = ["levels-draft", jobId];
  const place = `calm-basin.levels.${jobId}`;
  const { data } = useQuery({
    queryKey,
    queryFn: () => read(place),
    networkMode: "always",
    staleTime: Infinity,
  });
  const put = (draft: Taken[]) => {
    if (draft.length) keep(place, JSON.stringify(draft));
    else forget(place);
    client.setQueryData(queryKey, draft);
  };
  return { draft: data ?? [], put };
}

function read(place: string): Taken[] {
  try {
    const found: unknown = JSON.parse(recall(place) ?? "[]");
    return Array.isArray(found) ? found : [];
  } catch {
    return [];
  }
}
