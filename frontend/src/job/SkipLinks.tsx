const PLACES = [
  ["Skip to the fields", "[data-panel] :is(input, select, textarea, button, a, summary)"],
  ["Skip to the findings", "#findings :is(button, a, summary)"],
  ["Skip to the chart", "[data-handle], [data-pane=chart] button"],
] as const;

/** The first that Tab comes to on a page: ways past the head and the list of steps. */
export function SkipLinks() {
  return (
    <nav aria-label="Skip">
      {PLACES.map(([label, css]) => (
        <button
          key={label}
          type="button"
          className="sr-only focus:not-sr-only focus:absolute focus:h-11! focus:px-4! focus:left-2 focus:top-1.5 focus:z-50 btn btn-info h-11"
          onClick={() => {
            const found = [...document.querySelectorAll<HTMLElement | SVGElement>(css)].find(
              (one) => one.checkVisibility(),
            );
            found?.scrollIntoView({ block: "nearest" });
            found?.focus();
          }}
        >
          {label}
        </button>
      ))}
    </nav>
  );
}
