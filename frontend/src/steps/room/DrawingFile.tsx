import { useState } from "react";
import { api, type Outlines, type Problem } from "../../api/client";
import { useScreen } from "../../job/context";
import { FileButton } from "../../ui/FileButton";
import { Labelled } from "../../ui/Labelled";
import { Modal } from "../../ui/Modal";

const UNITS = ["mm", "cm", "m", "in", "ft"];

type XY = [number, number];

/** The room's outline out of a DXF drawing: its layer and its unit are chosen. */
export function DrawingFile() {
  const { plan, edit } = useScreen();
  const [text, setText] = useState<string | null>(null);
  const [found, setFound] = useState<Outlines | null>(null);
  const [layer, setLayer] = useState(0);
  const [trouble, setTrouble] = useState("");
  async function look(dxf: string, unit: string | null) {
    setTrouble("");
    setLayer(0);
    try {
      setFound(await api.readOutlines(dxf, unit, plan.display));
    } catch (problem) {
      const { errors, message } = problem as Problem;
      setFound(null);
      setTrouble(errors?.[0]?.message ?? message);
    }
  }
  async function bring(file: File) {
    const dxf = await file.text();
    setText(dxf);
    await look(dxf, null);
  }
  function close() {
    setText(null);
    setFound(null);
    setTrouble("");
  }
  const shown = found?.layers[layer];
  return (
    <>
      <FileButton accept=".dxf" onFile={(file) => void bring(file)}>
        Outline from a drawing (DXF)
      </FileButton>
      {text !== null && (
        <Modal title="The room from a drawing" onClose={close}>
          {trouble && (
            <p role="alert" className="text-error font-semibold mt-3">
              {trouble}
            </p>
          )}
          {!found && !trouble && <p aria-busy>Reading the drawing…</p>}
          {found && (
            <div className="space-y-3 mt-3">
              <p>{found.said}</p>
              <div className="fields">
                <Labelled label="Unit of the drawing">
                  {(id) => (
                    <select
                      id={id}
                      className="select w-full h-11 text-base"
                      value={found.unit ?? ""}
                      onChange={(event) => void look(text, event.currentTarget.value)}
                    >
                      {found.unit === null && <option value="">choose</option>}
                      {UNITS.map((unit) => (
                        <option key={unit}>{unit}</option>
                      ))}
                    </select>
                  )}
                </Labelled>
                {found.layers.length > 0 && (
                  <Labelled label="Layer">
                    {(id) => (
                      <select
                        id={id}
                        className="select w-full h-11 text-base"
                        value={layer}
                        onChange={(event) => setLayer(Number(event.currentTarget.value))}
                      >
                        {found.layers.map((one, i) => (
                          <option key={one.name} value={i}>
                            {one.name} ({one.outlines.length})
                          </option>
                        ))}
                      </select>
                    )}
                  </Labelled>
                )}
              </div>
              {shown?.outlines.length === 0 && <p>No outline of a room is on this layer.</p>}
              <ul className="space-y-2">
                {shown?.outlines.map((outline) => (
                  <li key={String(outline.points)} className="flex items-center gap-3">
                    <Outline points={outline.points} />
                    <span className="flex-1">{outline.text}</span>
                    <button
                      type="button"
                      className="btn btn-info h-11"
                      onClick={() => {
                        void edit({ act: "outline", points: outline.points });
                        close();
                      }}
                    >
                      Use this outline
                    </button>
                  </li>
                ))}
              </ul>
              {shown && shown.told.length > 0 && (
                <div>
                  <h3 className="font-semibold">Left out</h3>
                  <ul className="list-disc pl-6 text-sm">
                    {shown.told.map((told) => (
                      <li key={told}>{told}</li>
                    ))}
                  </ul>
                </div>
              )}
              <p className="text-sm">
                It goes onto the lower left corner of the room. A door that no longer fits into its
                wall is removed. Measure on site before you cut.
              </p>
            </div>
          )}
        </Modal>
      )}
    </>
  );
}

/** A small drawing of an outline. */
function Outline({ points }: { points: XY[] }) {
  const span = (axis: 0 | 1) => Math.max(...points.map((p) => p[axis]));
  const [wide, deep] = [span(0), span(1)];
  const scale = 56 / Math.max(wide, deep);
  const way = points.map(([x, y]) => `${4 + x * scale},${4 + (deep - y) * scale}`).join(" ");
  return (
    <svg width={64} height={64} aria-hidden className="shrink-0">
      <polygon points={way} fill="var(--land)" stroke="var(--ink)" strokeWidth={2} />
    </svg>
  );
}
