import { useState } from "react";
import { Modal } from "../ui/Modal";
import { keep, recall } from "../ui/storage";

const SINGLE = "single keys";

/** Whether a key by itself goes somewhere: who speaks to the page, or presses keys unawares, turns
 * that off. */
export const singleKeys = () => recall(SINGLE) !== "off";

const KEYS = [
  ["1 · 2 · 3 …", "go to a phase of the job"],
  [", and .", "go to the step before, the step after"],
  ["+ · − · 0", "closer to the chart, farther, the whole of it; arrow keys move it"],
  ["Tab", "to the next field, or the next handle on the chart"],
  ["← ↑ → ↓", "move the handle by 1 mm or the smallest fraction; with Shift ten times as far"],
  ["↑ ↓ in a field", "make the value a step larger or smaller; with Shift ten steps"],
  ["Enter", "take what was typed"],
  ["Esc", "leave what was typed, or close a window"],
  ["Ctrl Z", "undo"],
  ["Ctrl Y or Ctrl Shift Z", "redo"],
  ["?", "this help"],
];

export function KeyboardHelp({ onClose }: { onClose: () => void }) {
  const [single, setSingle] = useState(singleKeys);
  return (
    <Modal title="Keys" onClose={onClose}>
      <dl className="mt-3 divide-y divide-base-300">
        {KEYS.map(([key, what]) => (
          <div key={key} className="flex gap-4 py-2">
            <dt className="w-44 shrink-0 font-semibold">{key}</dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
      <label className="flex items-center gap-3 min-h-11 mt-3 font-medium">
        <input
          type="checkbox"
          className="checkbox"
          checked={single}
          onChange={() => {
            keep(SINGLE, single ? "off" : "on");
            setSingle(!single);
          }}
        />
        Single keys go to phases, steps and this help
      </label>
      <p className="mt-2">
        Lengths are read as you write them: 1580, 158 cm, 62 3/8, 5' 2 3/8". Falls: 1:48, 2.1 %, 1/4
        in per ft.
      </p>
    </Modal>
  );
}
