import { useRef } from "react";

type Options = {
  /** Names the field, which is not seen. */
  label: string;
  onFiles: (files: File[]) => void;
  accept?: string;
  multiple?: boolean;
  /** Whether a folder is picked, with all files in it. */
  folder?: boolean;
};

/** A file field without a face: `pick` opens the browser's dialog. */
export function useFilePicker({ label, onFiles, accept, multiple = false, folder = false }: Options) {
  const place = useRef<HTMLInputElement>(null);
  return {
    pick: () => place.current?.click(),
    field: (
      <input
        ref={place}
        type="file"
        hidden
        aria-label={label}
        accept={accept}
        multiple={multiple}
        // React has no type for it, though every browser knows it.
        {...(folder && { webkitdirectory: "" })}
        onChange={({ target }) => {
          const files = [...(target.files ?? [])];
          target.value = "";
          if (files.length > 0) onFiles(files);
        }}
      />
    ),
  };
}
