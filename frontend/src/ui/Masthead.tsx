import type { ReactNode } from "react";

/** The head of a page that is no job: the product's name, and where else to go. */
export function Masthead({ children }: { children?: ReactNode }) {
  return (
    <header className="bg-primary text-primary-content px-6 max-sm:px-3 py-3 flex items-center gap-3 max-sm:gap-1">
      <img src="/favicon.svg" alt="" className="size-8 rounded" />
      <span className="text-xl font-bold flex-1 whitespace-nowrap">Calm Basin</span>
      {children}
    </header>
  );
}
