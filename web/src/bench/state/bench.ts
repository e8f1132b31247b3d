import type { QueryClient } from "@tanstack/react-query";
import { createStore, type StoreApi } from "zustand/vanilla";
import type { Board, Framing, Measure } from "../../api/client";
import { boardQuery, framingQuery } from "../../api/queries";
import type { Choices } from "../../api/use-choices";
import { editorOf } from "../editor/editors";
import { moment } from "../timecode";
import { derive, placeOf } from "./derive";
import { keyframing } from "./keyframing";
import { connectPlayer, playerOf } from "./playback";
import { serverEdits } from "./server-edits";
import { Transport } from "./transport";
import type { Answers, BenchState, Stored, View } from "./types";

/** Everything that `derive` works from and that can change. */
type Given = Stored & View & Answers;
type Loaded = Pick<Stored, "board" | "footage" | "framing">;

const VIEW: Omit<View, "time" | "step" | "onSource"> = {
  inShot: true,
  loopShot: false,
  fullScreen: false,
  zoom: null,
  cropShown: false,
  cropHeld: false,
  loupe: false,
  loupeHeld: false,
  surroundOff: false,
  beforeAfter: false,
  scopes: false,
  tinted: false,
  dimmed: true,
  levelling: false,
  drawingBox: false,
  shiftingPath: false,
  autoKeyShot: null,
  trial: null,
};

/** The store of the bench of one framing, which starts at a step and at a frame of its clip. */
export class Bench {
  readonly store: StoreApi<BenchState>;

  constructor(
    private readonly client: QueryClient,
    private readonly choices: Choices,
    loaded: Loaded,
    { step, frame }: Pick<View, "step"> & { frame: number | null },
  ) {
    const { board, footage, framing } = loaded;
    const editor = editorOf(client, board.id, framing.id);
    const transport = new Transport(footage.timing, frame);
    const tools = {
      projectId: board.id,
      framingId: framing.id,
      editor,
      transport,
      player: playerOf(transport),
    };
    const given = {
      ...loaded,
      edits: editor.store.getState(),
      ...VIEW,
      step,
      time: moment(transport.frame, footage.timing.rate),
      onSource: step === "source",
      editing: false,
      problem: null,
      answer: null,
      stamp: "",
    };
    this.store = createStore<BenchState>()(() => ({
      ...tools,
      ...given,
      ...derive({ ...tools, ...given }, choices),
      ...this.actions(editor),
    }));
  }

  /** Take in what the server says of the framing. */
  receive({ board, footage, framing }: Loaded) {
    const { transport } = this.get();
    transport.setTiming(footage.timing);
    this.update({ board, footage, framing, time: moment(transport.store.getState().rest, transport.rate) });
  }

  /** Go to a step, which starts with its own view. */
  goToStep(step: View["step"]) {
    if (step === this.get().step) return;
    this.update({ step, onSource: step === "source", fullScreen: false, drawingBox: false });
  }

  /** Subscribe to the editor and the playhead. The returned function ends that and stores unstored edits. */
  connect(): () => void {
    const { editor, transport, player } = this.get();
    const disconnect = [
      editor.store.subscribe((edits) => this.update({ ...this.latest(), edits })),
      transport.store.subscribe(({ rest }, before) => {
        if (rest !== before.rest) this.update({ time: moment(rest, transport.rate) });
      }),
      connectPlayer(transport, player),
    ];
    this.update({ edits: editor.store.getState() });
    return () => {
      for (const stop of disconnect) stop();
      // Whether files are still current depends on the stored plan.
      editor.flush().then(() => this.client.invalidateQueries({ queryKey: ["renders"] }));
    };
  }

  private get = () => this.store.getState();

  /** The framing as the page knows it: a stored edit arrives there before React shows it. */
  private latest(): Partial<Loaded> {
    const { projectId, framingId } = this.get();
    const framing = this.client.getQueryData<Framing>(framingQuery(framingId).queryKey);
    const board = this.client.getQueryData<Board>(boardQuery(projectId).queryKey);
    return { ...(framing && { framing }), ...(board && { board }) };
  }

  private update = (changed: Partial<Given>) => {
    let given = { ...this.get(), ...changed };
    let derived = derive(given, this.choices);
    const drops = given.trial !== null && given.trial.place !== placeOf({ ...given, ...derived });
    if (drops) {
      given = { ...given, trial: null };
      derived = derive(given, this.choices);
    }
    this.store.setState({ ...changed, ...(drops && { trial: null }), ...derived });
    if (drops) given.editor.abandon();
  };

  private actions(editor: BenchState["editor"]) {
    const { change, abandon } = editor;
    const show = this.update;
    return {
      change,
      abandon,
      show,
      ...serverEdits(this.client, this.choices, this.get, this.update),
      ...keyframing(this.get, show),
      report: (problem: unknown) => this.update({ problem }),
      takeStamp: (stamp: string) => this.update({ stamp }),
      takeMeasure: (measure: Measure, of: string) => this.update({ answer: { measure, of } }),
    } satisfies Partial<BenchState>;
  }
}
