import { ClipboardCheck } from "lucide-react";
import { DeckSheet } from "../../drawing/DeckSheet";
import { useScreen } from "../../job/context";
import { FigureRows } from "../../ui/FigureRows";
import { RiserChoices } from "./FamilyFields";

/** What is read out to the one who cuts the riser. */
export function RiserCard() {
  const { solution } = useScreen();
  const card = solution?.waste?.riser;
  if (!card) return null;
  return (
    <section aria-label="Riser card" className="border-2 border-info rounded-box p-3 space-y-2">
      <h2 className="font-bold leading-tight">Riser: {card.title}</h2>
      <RiserChoices />
      <ul className="space-y-1 text-lg leading-snug">
        {card.said.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
      <h3 className="font-semibold">In this order</h3>
      <ol className="list-decimal pl-6 space-y-0.5">
        {card.order.map((step) => (
          <li key={step}>{step}</li>
        ))}
      </ol>
      {card.check && (
        <p className="flex gap-2 font-semibold">
          <ClipboardCheck size={20} aria-hidden className="shrink-0" /> Before it is covered:{" "}
          {card.check}
        </p>
      )}
      <p className="text-sm">{card.source}. The product's own text comes first.</p>
    </section>
  );
}

/** The deck cut sheet. */
export function Sheet() {
  const { solution } = useScreen();
  const sheet = solution?.structure?.sheet;
  if (!sheet) return null;
  const hole = solution?.structure?.bodies.find((body) => body.part === "hole");
  return (
    <section aria-label="Deck cut sheet" className="space-y-2">
      <h2 className="font-semibold">Deck cut</h2>
      <DeckSheet sheet={sheet} hole={hole ? hole.outline : null} />
      <table className="w-full text-sm">
        <thead>
          <tr className="text-left">
            <th className="font-normal">saw from</th>
            <th className="font-normal">to</th>
            <th className="font-normal text-right">long</th>
          </tr>
        </thead>
        <tbody>
          {sheet.saw_lines.map((line) => (
            <tr key={`${line.start}${line.end}`} className="border-t border-base-300 align-top">
              <td className="py-1 pr-2">{line.start_text}</td>
              <td className="py-1 pr-2">{line.end_text}</td>
              <td className="py-1 text-right font-semibold whitespace-nowrap">
                {line.length_text}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <FigureRows
        figures={[sheet.blade, sheet.set_down, sheet.cleats].filter((one) => one !== null)}
      />
      {sheet.pieces.length > 0 && (
        <p>
          {sheet.pieces.map((piece, i) => (
            <span key={piece.text + String(piece.outline[0])}>
              {i > 0 && " · "}
              {i + 1}: {piece.text}
              {piece.loose && " (loose until the waste is tested)"}
            </span>
          ))}
        </p>
      )}
      <ol className="list-decimal pl-6 space-y-0.5">
        {sheet.steps.map((step) => (
          <li key={step}>{step}</li>
        ))}
      </ol>
    </section>
  );
}
