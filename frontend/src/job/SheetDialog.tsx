import { useQuery } from "@tanstack/react-query";
import { FolderArchive, Printer } from "lucide-react";
import { useId, useState } from "react";
import { api, type Problem } from "../api/client";
import { Modal } from "../ui/Modal";
import { download } from "../ui/storage";
import { useScreen } from "./context";

const PAPERS: Record<string, string> = {
  a4: "A4",
  a3: "A3",
  letter: "Letter",
  tabloid: "Tabloid",
};

/** The plan for the site, as PDF: which pages, on which paper. */
export function SheetDialog({ onClose }: { onClose: () => void }) {
  const { jobId, plan, agrees } = useScreen();
  const sheet = useQuery({ queryKey: ["sheet-pages"], queryFn: api.sheetPages });
  const imperial = plan.display.length === "in" || plan.display.length === "ft";
  const [paper, setPaper] = useState(imperial ? "letter" : "a4");
  /** Pages that are ticked otherwise than usual: what stands alone usually is not. */
  const [turned, setTurned] = useState<string[]>([]);
  const [making, setMaking] = useState<"sheet" | "files" | null>(null);
  const [problem, setProblem] = useState("");
  const paperId = useId();
  const isWanted = (page: { name: string; alone: boolean }) =>
    page.alone === turned.includes(page.name);
  const wanted = sheet.data?.pages.filter(isWanted) ?? [];

  async function make(what: "sheet" | "files") {
    setMaking(what);
    setProblem("");
    try {
      const pages = wanted.map((page) => page.name);
      const file = await (what === "sheet" ? api.sheet(jobId, paper, pages) : api.files(jobId));
      download(`${plan.job.name}.${what === "sheet" ? "pdf" : "zip"}`, file);
    } catch (error) {
      setProblem((error as Problem).message);
    } finally {
      setMaking(null);
    }
  }

  return (
    <Modal title="Job sheet for the site" onClose={onClose}>
      <label htmlFor={paperId} className="block text-sm mt-3 mb-1">
        Paper
      </label>
      <select
        id={paperId}
        className="select h-11 w-40 text-base"
        value={paper}
        onChange={(event) => setPaper(event.currentTarget.value)}
      >
        {sheet.data?.papers.map((name) => (
          <option key={name} value={name}>
            {PAPERS[name] ?? name}
          </option>
        ))}
      </select>
      {problem && (
        <p role="alert" className="text-error font-semibold mt-2">
          {problem}
        </p>
      )}
      {!agrees && <p className="text-sm mt-2">The sheet waits until the plan is saved.</p>}
      <div className="flex flex-wrap gap-2 mt-3">
        <button
          type="button"
          className="btn btn-info h-11"
          disabled={making !== null || wanted.length === 0 || !agrees}
          aria-busy={making === "sheet"}
          onClick={() => void make("sheet")}
        >
          {making === "sheet" ? (
            <progress className="progress w-6" />
          ) : (
            <Printer size={18} aria-hidden />
          )}
          {making === "sheet" ? "Making the sheet…" : "Save as PDF"}
        </button>
        <button
          type="button"
          className="btn h-11"
          disabled={making !== null || !agrees}
          aria-busy={making === "files"}
          onClick={() => void make("files")}
        >
          {making === "files" ? (
            <progress className="progress w-6" />
          ) : (
            <FolderArchive size={18} aria-hidden />
          )}
          {making === "files" ? "Making the files…" : "All files (zip)"}
        </button>
      </div>
      <fieldset className="mt-4">
        <legend className="text-sm mb-1">Pages</legend>
        {sheet.data?.pages.map((page) => (
          <label key={page.name} className="flex items-center gap-3 min-h-11 cursor-pointer">
            <input
              type="checkbox"
              className="checkbox"
              checked={isWanted(page)}
              onChange={() =>
                setTurned(
                  turned.includes(page.name)
                    ? turned.filter((name) => name !== page.name)
                    : [...turned, page.name],
                )
              }
            />
            {page.title}
          </label>
        ))}
      </fieldset>
      <p className="text-sm mt-2">
        The zip holds the plan, the sheet, a DXF drawing, order, days, calendar and pins.
      </p>
    </Modal>
  );
}
