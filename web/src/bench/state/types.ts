import type { Board, Design, Follow, Footage, Framing, Measure, Placement, Plan } from "../../api/client";
import type { EditorState, PlanEditor } from "../editor/plan-editor";
import type { Player } from "../playing/player";
import type { StepName } from "../steps";
import type { Transport } from "./transport";

/** Objects that stay the same as long as the bench shows a framing. */
export type Tools = {
  projectId: number;
  framingId: number;
  editor: PlanEditor;
  transport: Transport;
  player: Player;
};

/** Data of the server, and edits that are not stored yet. */
export type Stored = { board: Board; footage: Footage; framing: Framing; edits: EditorState };

/** A placement that is tried in the viewer while keyframes set it, until it is known which keyframes change. */
export type Trial = {
  /** The plan without it. */
  plan: Plan;
  /** The placement that the person is asked about; null while it is dragged. */
  placement: Placement | null;
  /** The place it belongs to; elsewhere it is dropped. */
  place: string;
};

/** The view of the framing: step, playhead and switches. */
export type View = {
  step: StepName;
  /** The resting playhead, in seconds of the clip as exact text. */
  time: string;
  /** Whether edits go to the current shot; otherwise to the whole clip. */
  inShot: boolean;
  /** Whether only the current shot plays. */
  loopShot: boolean;
  /** The whole source instead of the frame. */
  onSource: boolean;
  fullScreen: boolean;
  /** Screen pixels for a pixel of the frame; null fits the frame in. */
  zoom: number | null;
  /** What lies outside the frame is shown; `cropHeld` while a key is held. */
  cropShown: boolean;
  cropHeld: boolean;
  /** The frame under the pointer is shown pixel for pixel; `loupeHeld` while a key is held. */
  loupe: boolean;
  loupeHeld: boolean;
  /** The picture without its surround, while a key is held. */
  surroundOff: boolean;
  beforeAfter: boolean;
  scopes: boolean;
  /** Invented pixels are tinted. */
  tinted: boolean;
  /** What the window leaves out is dimmed on the source. */
  dimmed: boolean;
  /** A drag in the viewer draws a line to level the picture by. */
  levelling: boolean;
  /** A drag on the source draws a box to follow. */
  drawingBox: boolean;
  /** A drag shifts the whole path of a window that follows; otherwise it adds a pin. */
  shiftingPath: boolean;
  /** The shot in which every drag sets a keyframe. */
  autoKeyShot: number | null;
  trial: Trial | null;
};

/** Plans and numbers that follow from the rest. */
export type Derived = {
  rate: string;
  /** The plan of the whole clip, as it is shown. */
  wholePlan: Plan;
  /** The plan of the whole clip, without anything that is only being tried. */
  committedPlan: Plan;
  /** The number of the current shot, from 0. */
  shot: number;
  /** The plan of the current shot, or of the whole clip: as it is shown, and without the trial of a keyframe. */
  shownPlan: Plan;
  plan: Plan;
  /** The plan that drags in the viewer change: without movement where they set a keyframe. */
  viewerPlan: Plan;
  measure: Measure;
  /** Whether the numbers are those of the plan that is shown. */
  measured: boolean;
  following: boolean;
  /** Whether keyframes, or a window that follows, set the placement. */
  keyframed: boolean;
  autoKey: boolean;
};

/** The body of a request for another design. */
export type Asked = { design: Design; shot: number | null };
/** The path parameters of requests about the framing on the bench. */
export type FramingParams = { path: { framing_id: number } };
export type KeyTarget = "key" | "shift" | "nearest";

/** Changes of a plan: try one, commit one, or abandon a trial. */
export type PlanEdits = {
  change: (plan: Plan) => void;
  commit: (plan: Plan, label: string) => void;
  abandon: () => void;
};

export type Actions = PlanEdits & {
  /** Change how something is shown. */
  show: (fields: Partial<View>) => void;
  /** Edits of `viewerPlan`. */
  viewerEdits: PlanEdits;
  /** Ask the server for another design of a plan, by default the one of the current shot, and take it in as an edit. */
  edit: (
    label: string,
    ask: (params: FramingParams, asked: Asked) => Promise<Design>,
    from?: Plan,
  ) => Promise<boolean>;
  /** Let the window follow, or follow otherwise. */
  follow: (given: Partial<Follow>, label: string) => Promise<void>;
  /** Set the placement that is tried as a keyframe. */
  setKey: (target: KeyTarget) => void;
  takeMeasure: (measure: Measure, of: string) => void;
  /** Show why something failed; null clears it. */
  report: (problem: unknown) => void;
  takeStamp: (stamp: string) => void;
};

/** Answers of the server to edits and measurements. */
export type Answers = {
  /** Whether it is working on an edit, and why the last one failed. */
  editing: boolean;
  problem: unknown;
  /** The newest numbers, and the design as text that they are of. */
  answer: { measure: Measure; of: string } | null;
  /** Changes whenever another part of an extended scene is there: then pictures are requested again. */
  stamp: string;
};

export type BenchState = Tools & Stored & View & Derived & Answers & Actions;
