import type { Footage, Schemas } from "./client";

type Wanted = {
  /** Pixels across. */
  width: number;
  /** Seconds into the clip; its middle unless given. */
  time?: string;
  /** Whether burned-in bars are shown too. */
  whole?: boolean;
};

/** The address of a clip's own picture, upright and in its true shape under an interpretation. */
export function clipPicture(
  { id, stamp }: Footage,
  interpretation: Schemas["Interpretation"],
  { width, time, whole }: Wanted,
): string {
  const query = new URLSearchParams({ width: String(width), stamp, reading: JSON.stringify(interpretation) });
  if (time !== undefined) query.set("time", time);
  if (whole) query.set("whole", "true");
  return `/api/footage/${id}/picture?${query}`;
}
