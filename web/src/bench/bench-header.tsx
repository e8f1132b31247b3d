import { Link, useLocation } from "react-router";
import { useHistory } from "../history/history";
import { HistoryButtons } from "../history/history-buttons";
import { useRendering } from "../rendering/use-rendering";
import { Header } from "../shell/header";
import { Button } from "../ui/button";
import { useKeys } from "../ui/keyboard";
import { stemOf } from "../ui/stem";
import { BoardLink } from "./framing-loader";
import { IntoFrame, Neighbours } from "./into-frame";
import { useBench } from "./state/use-bench";
import { useBenchUrl } from "./use-bench-url";

/** The line along the top of the bench. */
export function BenchHeader() {
  const { board, footage, framingId, report } = useBench("board", "footage", "framingId", "report");
  const { search } = useLocation();
  const { goToStep } = useBenchUrl();
  const rendering = useRendering(board.id, report);
  const render = () => rendering.render([framingId], () => goToStep("check"));
  useKeys([{ keys: "$mod+Enter", does: "Render", act: render }]);
  const trail = (
    <>
      <BoardLink board={board} />
      <span className="text-soft">/</span>
      <h1 className="truncate font-semibold">{stemOf(footage.name)}</h1>
    </>
  );
  return (
    <Header projectId={board.id} trail={trail}>
      <Neighbours />
      <BenchHistory />
      <IntoFrame />
      <Link
        className="whitespace-nowrap text-soft hover:text-ink"
        to={`/projects/${board.id}/framings/${framingId}/lineup${search}`}
      >
        Line-up
      </Link>
      <Button look="main" disabled={rendering.busy} onClick={render}>
        Render
      </Button>
      {rendering.sheet}
    </Header>
  );
}

/** Undo and Redo. Changes that are not stored yet can be undone too; after them nothing can be redone. */
function BenchHistory() {
  const { projectId, framingId, edits, editor } = useBench("projectId", "framingId", "edits", "editor");
  const history = useHistory(projectId, framingId);
  return (
    <HistoryButtons
      undo={edits.last ?? history.undo}
      redo={edits.last ? null : history.redo}
      onWalk={(way) => editor[way]()}
    />
  );
}
