export const STEPS = [
  "source",
  "frame",
  "placement",
  "movement",
  "surround",
  "finish",
  "file",
  "check",
] as const;
export type StepName = (typeof STEPS)[number];

export const TITLES: Record<StepName, string> = {
  source: "Source",
  frame: "Frame",
  placement: "Placement",
  movement: "Movement",
  surround: "Surround",
  finish: "Finish",
  file: "File",
  check: "Check",
};
