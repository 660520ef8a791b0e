import { useEffect, useState } from "react";
import { keep, recall } from "./storage";

export type Theme = "tide-day" | "tide-night";
const KEY = "calm-basin.theme";

/** The colours in use and a switch between them; at first the system's. */
export function useTheme(): [Theme, () => void] {
  const [theme, setTheme] = useState<Theme>(() => {
    const kept = recall(KEY);
    if (kept === "tide-day" || kept === "tide-night") return kept;
    return matchMedia("(prefers-color-scheme: dark)").matches ? "tide-night" : "tide-day";
  });
  useEffect(() => {
    document.documentElement.dataset.theme = theme;
  }, [theme]);
  return [
    theme,
    () => {
      const next = theme === "tide-day" ? "tide-night" : "tide-day";
      keep(KEY, next);
      setTheme(next);
    },
  ];
}
