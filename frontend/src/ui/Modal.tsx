import { X } from "lucide-react";
import { type ReactNode, useLayoutEffect, useRef } from "react";

interface Props {
  title: string;
  children: ReactNode;
  /** As wide as a table needs. */
  wide?: boolean;
  /** Without it the dialog can only be left by one of its own buttons. */
  onClose?: () => void;
}

/** A dialog over the page: holds the focus, closes with Escape. */
export function Modal({ title, children, wide, onClose }: Props) {
  const box = useRef<HTMLDialogElement>(null);
  // Closed before it is taken out of the page, it gives the focus back to where it was.
  useLayoutEffect(() => {
    const dialog = box.current;
    dialog?.showModal();
    // What is asked for comes before the way out.
    dialog?.querySelector<HTMLElement>("input, select, textarea")?.focus();
    return () => dialog?.close();
  }, []);
  return (
    <dialog
      ref={box}
      className="modal"
      aria-label={title}
      onCancel={(event) => {
        event.preventDefault();
        onClose?.();
      }}
    >
      <div className={`modal-box text-base-content ${wide ? "max-w-4xl" : "max-w-xl"}`}>
        <div className="flex items-start gap-4">
          <h2 className="text-xl font-bold flex-1">{title}</h2>
          {onClose && (
            <button
              type="button"
              className="btn btn-ghost btn-square size-11 -mt-2 -mr-2"
              onClick={onClose}
              aria-label="Close"
            >
              <X aria-hidden />
            </button>
          )}
        </div>
        {children}
      </div>
    </dialog>
  );
}
