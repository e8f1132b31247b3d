type Props = { name: string; most?: number; onDone: (name: string | null) => void };

/** A name while it is changed. Enter settles it, Escape leaves it as it was. */
export function RenameField({ name, most = 120, onDone }: Props) {
  return (
    <input
      aria-label="New name"
      // biome-ignore lint/a11y/noAutofocus: it comes up because this is being renamed
      autoFocus
      className="w-full rounded border border-ochre bg-sheet px-1.5 py-0.5 font-semibold"
      defaultValue={name}
      maxLength={most}
      onFocus={({ target }) => target.select()}
      onBlur={({ target }) => onDone(target.value.trim() || null)}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === "Enter") event.currentTarget.blur();
        if (event.key === "Escape") onDone(null);
      }}
    />
  );
}
