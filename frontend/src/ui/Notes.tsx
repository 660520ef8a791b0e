/** What to keep to while something is done. */
export function Notes({ title, notes }: { title: string; notes: readonly string[] }) {
  if (notes.length === 0) return null;
  return (
    <section aria-label={title}>
      <h2 className="font-semibold mb-1">{title}</h2>
      <ul className="list-disc pl-5 space-y-1">
        {notes.map((note) => (
          <li key={note}>{note}</li>
        ))}
      </ul>
    </section>
  );
}
