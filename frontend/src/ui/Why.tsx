import type { Figure } from "../api/generated/solution";
import { Modal } from "./Modal";

/** What has a working: a figure, or a line or a task with it. */
export type Worked = Pick<Figure, "label" | "text" | "working">;

/** The working of one figure: formula in words, inputs, source. */
export function Why({ figure, onClose }: { figure: Worked; onClose: () => void }) {
  const { working } = figure;
  return (
    <Modal title={`${figure.label}: ${figure.text}`} onClose={onClose}>
      <p className="mt-2 text-lg leading-snug">{working.formula}</p>
      <dl className="mt-4 divide-y divide-base-300 border-y border-base-300">
        {working.inputs.map((input) => (
          <div key={input.name} className="flex gap-4 py-1.5">
            <dt className="flex-1">{input.name}</dt>
            <dd className="font-semibold">{input.text}</dd>
          </div>
        ))}
        <div className="flex gap-4 py-2">
          <dt className="flex-1 font-bold">{figure.label}</dt>
          <dd className="font-bold text-lg">{figure.text}</dd>
        </div>
      </dl>
      {working.note && <p className="mt-3">{working.note}</p>}
      <p className="mt-3 text-sm">{working.source}</p>
    </Modal>
  );
}
