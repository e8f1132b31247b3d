import check from "../../../docs/screenshots/bench-check.png";
import extending from "../../../docs/screenshots/bench-extending.png";
import finish from "../../../docs/screenshots/bench-finish.png";
import following from "../../../docs/screenshots/bench-following.png";
import frame from "../../../docs/screenshots/bench-frame.png";
import movement from "../../../docs/screenshots/bench-movement.png";
import placement from "../../../docs/screenshots/bench-placement.png";
import source from "../../../docs/screenshots/bench-source.png";
import surround from "../../../docs/screenshots/bench-surround.png";
import board from "../../../docs/screenshots/board.png";
import renders from "../../../docs/screenshots/renders.png";
import { hasWords } from "../ui/words";

export type Task = {
  /** Its name in addresses. */
  name: string;
  title: string;
  picture: string;
  steps: string[];
  /** What else is worth knowing. */
  notes: string[];
  /** Other words that people may search for. */
  words?: string[];
};

/** One page a task, in the order in which people come to them. */
export const TASKS: Task[] = [
  {
    name: "first-file",
    title: "From a clip to a finished file",
    picture: board,
    steps: [
      "Start a new project on the first page and drop clips, or a folder of them, anywhere. To try it without clips of your own, choose Try with sample clips.",
      "Add the frames that you must deliver. Every clip is in every frame at once: the whole picture over a blurred copy of itself, until you change it.",
      "Select a cell to open it on the bench. The steps are on the left, in the order people work.",
      "Press Render. The finished file is measured; Check shows whether it passes.",
    ],
    notes: [
      "Everything is saved as you do it. Undo takes back your changes in their order, wherever you made them, also after a reload; its button names the next one.",
      "Save as preset, at the lower left of the bench, uses what you did with one clip for all clips of its format.",
    ],
  },
  {
    name: "placement",
    title: "Crop, zoom, scale and reframe the picture",
    picture: placement,
    steps: [
      "At Placement choose one of the examples: whole (letterbox or pillarbox), fill (crop to the frame), or between.",
      "Drag the picture in the viewer to reframe it; scroll or pinch to zoom; arrow keys move it one pixel, with Shift ten.",
      "What it costs, at the foot of the panel, says how much is kept and which sides are cropped.",
    ],
    notes: [
      "Hold H to show the cropped parts. Z is a loupe at the pointer; X shows the frame at 100%, + and − beside it zoom further.",
      "W shows the scopes: waveform, RGB parade and vectorscope, with the share of codes outside the legal range.",
      "Straighten turns the picture about its middle; Level to horizon does it along a line that you draw.",
    ],
    words: [
      "pan and scan",
      "vertical",
      "portrait",
      "aspect ratio",
      "resize",
      "position",
      "waveform",
      "vectorscope",
      "scopes",
      "levels",
    ],
  },
  {
    name: "board",
    title: "Sort, filter and change many clips",
    picture: board,
    steps: [
      "Press / and type part of a name to find clips. The filters above the board show what to review, and why.",
      "Drag a clip by its picture to another place, or use its menu; frames move left and right by theirs.",
      "Move over a picture to see its first, middle and last frame. The slider sets how large pictures are.",
      "Select cells with their boxes or Shift+Space, and change all of them at once in the bar below.",
    ],
    notes: [
      "A removed clip or frame can be restored for 15 minutes.",
      "The address of a board keeps the selection, search and order. Printing puts all of it on paper.",
    ],
    words: ["batch", "multiple", "thumbnail", "select all"],
  },
  {
    name: "surround",
    title: "Fill the background beside the picture",
    picture: surround,
    steps: [
      "At Surround choose a background by its example: a blur of the clip, a colour, a gradient, a picture of your own and more.",
      "Set blur, brightness and colour below. Each kind keeps its values for when you come back to it.",
      "If the background distracts from the picture, a line points it out, and Tone down corrects it.",
    ],
    notes: ["Hold B to hide the background.", "Different sides gives each side a different background."],
    words: ["pillarbox", "letterbox", "black bars", "side bars", "fill"],
  },
  {
    name: "extending",
    title: "Extend the scene beyond the frame",
    picture: extending,
    steps: [
      "At Surround choose Extended. Every side of the shot is analysed: whether it works, why, and until when.",
      "Choose one of the options for each side; 4 more options makes others. Where someone crosses the edge, use only the range that works.",
      "Press T to highlight invented pixels, and Space to judge it moving.",
      "To paint a side yourself, save the still, fill its transparent area, and import it.",
    ],
    notes: [
      "Real pixels of the clip come first. Invented ones are marked, on the bench and on the delivery sheet.",
      "Nothing is sent anywhere unless a generator is set up and you press its button.",
    ],
    words: ["outpaint", "generate", "generative", "uncrop", "ai"],
  },
  {
    name: "movement",
    title: "Animate the picture with moves and keyframes",
    picture: movement,
    steps: [
      "At Movement choose a move such as push or pan, or press Add keyframe and go on to the next moment.",
      "Drag the picture at each keyframe; between them it moves along its speed curve.",
      "Space plays it. What it costs shows the most that is cropped on the way.",
    ],
    notes: ["Find shots splits the clip at its cuts; each shot can have a different placement."],
    words: ["keyframe", "zoom", "pan", "ease", "animation", "shots", "scene detection"],
  },
  {
    name: "following",
    title: "Follow a subject",
    picture: following,
    steps: [
      "At Movement press Follow subject. The clip is analysed once.",
      "Choose a subject if there are several, or draw a box round it.",
      "Press N to go to the next moment to check, and drag the frame where it is wrong.",
    ],
    notes: ["Source shows the whole picture with the frame drawn on it."],
    words: ["track", "tracking", "face", "speaker"],
  },
  {
    name: "finish",
    title: "Titles, captions, subtitles and finishing",
    picture: finish,
    steps: [
      "At Finish click an example to turn a vignette, border or shadow on or off.",
      "Add a title and drag it in the viewer, or choose the background that has one.",
      "Captions come from an SRT or WebVTT file, or from closed captions in the clip (Source). They are kept clear of the picture where there is room.",
    ],
    notes: ["Make readable, under the words, corrects size and contrast where they are hard to read."],
    words: ["text", "lower third", "logo", "grain", "subtitle"],
  },
  {
    name: "bars",
    title: "Bars in the file, or not",
    picture: frame,
    steps: [
      "Where the active picture is smaller than the frame, a file can hold the bars, or the picture alone.",
      "Both are shown as outlines with their sizes. Choose one; every file of that frame is written so.",
      "Guides show safe areas and what an interface covers.",
    ],
    notes: ["Not sure? Ask the receiver: bars that are added a second time make the picture smaller."],
    words: ["letterbox", "safe area", "title safe", "active picture", "2.39", "widescreen"],
  },
  {
    name: "source",
    title: "When a clip looks squeezed, rotated, interlaced or too dark",
    picture: source,
    steps: [
      "At Source see what the file states about itself, and how it is read.",
      "Choose another pixel aspect from examples of this clip: pick the one where circles are round.",
      "Black bars in the picture are found; crop them or keep them. Deinterlace is below.",
    ],
    notes: ["This applies to the clip in every frame, and can be the preset for its format."],
    words: [
      "anamorphic",
      "deinterlace",
      "fields",
      "combing",
      "rotation",
      "hdr",
      "colour",
      "closed captions",
      "aspect",
    ],
  },
  {
    name: "file",
    title: "Choose the kind of file, its rate and its sound",
    picture: check,
    steps: [
      "At File choose a preset, or the format, quality or bit rate and sound one by one. Every file of that frame is written so.",
      "The estimated file size stands below: some frames of this clip are encoded for it.",
      "Save settings under a name to use them in other projects, or export them as a file.",
    ],
    notes: ["Before rendering, a sheet shows the same once more, with whatever disagrees on top."],
    words: ["codec", "container", "bitrate", "prores", "h.264", "quality", "export settings", "mp4", "mov"],
  },
  {
    name: "check",
    title: "Check that a file is right",
    picture: check,
    steps: [
      "At Check the finished file plays in the viewer, with the same keys as everything else.",
      "The report lists expected and measured values of the file, failures first.",
      "Hold F to show the expected frame, or press D and drag the split between the two.",
    ],
    notes: ["A line that failed says what to do."],
    words: ["qc", "quality control", "loudness", "report", "errors"],
  },
  {
    name: "delivering",
    title: "Render, export and deliver many files",
    picture: renders,
    steps: [
      "On the board select cells, or press Render all.",
      "A sheet shows how the files will be written and what may not be meant so, such as a range shorter than the clip. Change it there, or press Render.",
      "Renders shows files in progress and in the queue; change the order, pause, or try again.",
      "Download all, or print the delivery sheet: every file with its picture, numbers and result.",
    ],
    notes: ["Old files can be deleted after some days; they can be rendered again."],
    words: ["export", "output", "queue", "batch", "download", "codec"],
  },
];

/** The tasks in which every word of a search stands. */
export function tasksWith(search: string): Task[] {
  return TASKS.filter(({ title, steps, notes, words = [] }) =>
    hasWords([title, ...steps, ...notes, ...words].join(" "), search),
  );
}
