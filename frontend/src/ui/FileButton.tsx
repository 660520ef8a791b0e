import { FolderUp } from "lucide-react";
import type { ReactNode } from "react";

interface Props {
  /** What may be chosen, as the browser names it. */
  accept: string;
  onFile: (file: File) => void;
  children: ReactNode;
}

/** A button that brings in a file. */
export function FileButton({ accept, onFile, children }: Props) {
  return (
    <label className="btn h-11">
      <FolderUp size={20} aria-hidden /> {children}
      <input
        type="file"
        accept={accept}
        className="sr-only"
        onChange={(event) => {
          const file = event.currentTarget.files?.[0];
          if (file) onFile(file);
          // The same file may be chosen again.
          event.currentTarget.value = "";
        }}
      />
    </label>
  );
}
