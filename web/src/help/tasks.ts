import check from "../../../docs/screenshots/bench-check.png";
import extending from "../../../docs/screenshots/bench-extending.png";
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
};

/** One page a task, in the order in which people come to them. */
export const TASKS: Task[] = [
  {
    name: "first-file",
    title: "From a clip to a finished file",
    picture: board,
    steps: [
      "New project on the first page, and let clips, or a folder of them, go anywhere on the page. Without clips at hand, Try with sample clips.",
      "Press Add frame, and choose what you must deliver into. Every clip is in every frame at once: whole, over a blurred copy of itself, until you change it.",
      "Press a cell to open it on the bench. The steps run down the left in the order people work.",
      "Press Render. The finished file is measured; Check says whether it is right.",
    ],
    notes: [
      "Everything is kept as you do it. Undo goes back as far as the first change, also after a reload.",
      "What one clip taught you can be the rule for all clips of its format: Save as preset, at the lower left of the bench.",
    ],
  },
  {
    name: "placement",
    title: "Placing the picture in its frame",
    picture: placement,
    steps: [
      "At step Placement choose one of the small pictures, each a real rendering of this clip.",
      "Drag the picture in the well; the wheel, or two fingers, size it; arrow keys move it by a pixel, with Shift by ten.",
      "Read what it costs at the foot of the panel: how much of the picture is kept, and on which sides something is lost.",
    ],
    notes: [
      "Hold H to see what lies outside the frame, and Z to see the frame under the pointer pixel for pixel; X shows all of it so, to be moved under the hand.",
      "Straighten turns the picture about its middle; draw along the horizon, and it is level.",
    ],
  },
  {
    name: "board",
    title: "Keeping many clips and frames in order",
    picture: board,
    steps: [
      "Press / and write a part of a name to find clips; choose above the board which need a look, and why.",
      "Drag a clip by its picture to another place, or move it up and down by its menu; frames move left and right by theirs.",
      "Resize a frame by its menu: every clip in it follows, and those that keep less of their picture are named.",
      "What came of its last render stands in each cell; Render failed shows the clips where one did.",
    ],
    notes: [
      "A clip or a frame that was removed can be brought back for a quarter of an hour.",
      "A link to a board holds what is selected, sought and sorted; printed, all of it comes on paper.",
    ],
  },
  {
    name: "surround",
    title: "Filling the bars beside the picture",
    picture: surround,
    steps: [
      "At step Surround choose a kind by its picture. Once one is chosen the pictures draw together into a strip; larger brings them back.",
      "Set what it offers below. What you leave keeps its values for when you come back to it.",
      "Where it draws the eye away from the picture, a line says so, and Tone down mends it.",
    ],
    notes: [
      "Hold B to see the picture without its surround.",
      "Each side can have its own: Different sides.",
    ],
  },
  {
    name: "extending",
    title: "Letting the scene go on beyond its frame",
    picture: extending,
    steps: [
      "At step Surround choose Extended. Every side of the shot is judged first: whether it can go on, why, and until when.",
      "Choose one of the ways for each side; Again makes more. Where somebody crosses, shorten the range to the stretch that fits.",
      "Press T to tint what is invented, and Space to judge it moving.",
      "To finish a side by other means, Save the still, paint in it what is clear, and Take it back.",
    ],
    notes: [
      "Real pixels of the clip itself come first. What is invented is called so, on the bench and on the delivery sheet.",
      "Nothing is sent anywhere unless a generator is set up and you press its button.",
    ],
  },
  {
    name: "movement",
    title: "Moving the picture over time",
    picture: movement,
    steps: [
      "At step Movement choose a move, or Add keyframe and go on to the next one.",
      "Drag the picture at each key; between them it moves as softly as its curve says.",
      "Space plays it. What a move loses on its way stands in what it costs.",
    ],
    notes: ["Find shots cuts the clip where its pictures do; each shot can have a placement of its own."],
  },
  {
    name: "following",
    title: "Following whoever matters",
    picture: following,
    steps: [
      "At step Movement press Follow subject. The clip is looked at once.",
      "Say whom to follow, where there are several; or draw a box.",
      "Press N to go from doubt to doubt, and correct the window where it is wrong.",
    ],
    notes: ["Source shows the whole picture with the window on it."],
  },
  {
    name: "bars",
    title: "Bars in the file, or not",
    picture: frame,
    steps: [
      "Where the picture sits inside its frame, a file can hold the bars, or the picture alone.",
      "Both stand as outlines with their sizes. Choose one; every file into that frame is written so.",
    ],
    notes: [
      "Whoever receives the file knows which is wanted. Where nobody says, ask: a file with bars that are added once more has them twice.",
    ],
  },
  {
    name: "source",
    title: "When a clip looks squeezed, turned or too dark",
    picture: source,
    steps: [
      "At step Source see what the file says of itself, and what its pixels are taken to be.",
      "Choose another shape of pixel from pictures of this clip; a circle that is round is the truth.",
      "Bars that are part of the picture are found; take them off, or leave them.",
    ],
    notes: ["What you say here goes for every frame of this clip, and can be the rule for its format."],
  },
  {
    name: "check",
    title: "Being sure that the file is right",
    picture: check,
    steps: [
      "At step Check the finished file plays in the well, by the same keys as everything else.",
      "The table says what was asked and what was found, measured in the file itself by other means than made it.",
      "Hold F to flick to what was asked for at the same moment, or press D and drag the edge between the two.",
    ],
    notes: ["A line that says wrong says what to do as well."],
  },
  {
    name: "delivering",
    title: "Handing over many files",
    picture: renders,
    steps: [
      "On the board select cells with Space or by their boxes, or press Render all.",
      "On Renders see what is at work and what waits; change the order, pause, or try again.",
      "Download all, or print the delivery sheet: every file with its picture, its numbers and its verdict.",
    ],
    notes: ["Results can be cleared after some days, by a rule of the project; they can be rendered again."],
  },
];

/** The tasks in which every word of a search stands. */
export function tasksWith(search: string): Task[] {
  return TASKS.filter(({ title, steps, notes }) => hasWords([title, ...steps, ...notes].join(" "), search));
}
