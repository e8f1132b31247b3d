import { useEffect, useState } from "react";

/** A file that is let go where nothing takes it would be opened by the browser in place of the page: it is caught, and said so. */
export function StrayFiles() {
  const [note, setNote] = useState(false);
  useEffect(() => {
    // A field for a file takes one by itself.
    const astray = ({ dataTransfer, target }: DragEvent) =>
      dataTransfer?.types.includes("Files") && !(target instanceof HTMLInputElement);
    const over = (event: DragEvent) => {
      if (astray(event)) event.preventDefault();
    };
    const drop = (event: DragEvent) => {
      if (!astray(event)) return;
      if (!event.defaultPrevented) setNote(true);
      event.preventDefault();
    };
    window.addEventListener("dragover", over);
    window.addEventListener("drop", drop);
    return () => {
      window.removeEventListener("dragover", over);
      window.removeEventListener("drop", drop);
    };
  }, []);
  useEffect(() => {
    if (!note) return;
    const timer = setTimeout(() => setNote(false), 6000);
    return () => clearTimeout(timer);
  }, [note]);
  return (
    <div aria-live="polite" className="fixed bottom-4 left-4 z-50">
      {note && (
        <p className="rounded border border-rule bg-sheet px-4 py-2 shadow-lg">
          Files are taken in on a board: open a project and let them go there.
        </p>
      )}
    </div>
  );
}
