import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, useLocation, useNavigate } from "react-router";
import { type Alternative, api, unwrap } from "../../api/client";
import { lineupQuery, treatmentsQuery } from "../../api/queries";
import { Header } from "../../shell/header";
import { Button } from "../../ui/button";
import { Menu } from "../../ui/menu";
import { ProblemNote } from "../../ui/problem-note";
import { stemOf } from "../../ui/stem";
import { useTitle } from "../../ui/use-title";
import { useTimeKeys } from "../bench-keys";
import { BoardLink, FramingLoader } from "../framing-loader";
import { usePlayable } from "../playing/use-playable";
import { useBench } from "../state/use-bench";
import { Timeline } from "../timeline/timeline";
import { Divider } from "./divider";
import { Way } from "./way";

const MOST = 9;

/** Whole alternatives at one moment side by side, each with its cost; one is chosen. */
export const LineupPage = () => (
  <FramingLoader>
    <Lineup />
  </FramingLoader>
);

function Lineup() {
  const { board, footage, framing, framingId, editor } = useBench(
    "board",
    "footage",
    "framing",
    "framingId",
    "editor",
  );
  const lineup = useAlternatives();
  const { search } = useLocation();
  const navigate = useNavigate();
  useTimeKeys();
  useTitle("Line-up", stemOf(footage.name), board.name);
  const bench = `/projects/${board.id}/framings/${framingId}${search}`;

  async function choose({ design, name }: Alternative) {
    editor.commit({ ...framing.plan, ...design }, `Line-up: ${name}`);
    await editor.flush();
    navigate(bench);
  }

  const trail = (
    <>
      <BoardLink board={board} />
      <span className="text-soft">/</span>
      <Link className="truncate text-soft hover:text-ink" to={bench}>
        {stemOf(footage.name)}
      </Link>
      <span className="text-soft">/</span>
      <h1 className="font-semibold">Line-up</h1>
    </>
  );
  return (
    <div className="flex h-full min-h-[600px] flex-col overflow-hidden">
      <Header projectId={board.id} trail={trail}>
        <AddTreatment lineup={lineup} />
        <Button onClick={() => navigate(bench)}>Back to the bench</Button>
      </Header>
      <ProblemNote error={lineup.error} />
      <main id="main" tabIndex={-1} className="outline-none min-h-0 grow overflow-y-auto p-4">
        <Alternatives lineup={lineup} onChoose={choose} />
      </main>
      <Timeline />
    </div>
  );
}

/** The alternatives of the framing, and a treatment of it as one more. */
function useAlternatives() {
  const { framingId, time } = useBench("framingId", "time");
  const { data, error } = useQuery(lineupQuery(framingId));
  const [ways, setWays] = useState<Alternative[]>([]);
  useEffect(() => setWays(data ?? []), [data]);

  async function add(name: string, design: Alternative["design"]) {
    const params = { path: { framing_id: framingId } };
    const body = { design, time, width: null, measured: true };
    const { measure } = await unwrap(api.POST("/api/framings/{framing_id}/preview", { params, body }));
    if (measure)
      setWays((now) => [...now.filter((way) => way.name !== name), { name, design, measure }].slice(0, MOST));
  }

  const leaveOut = (way: Alternative) => setWays(ways.filter((other) => other !== way));
  return { ways, add, leaveOut, error };
}

type LineupState = ReturnType<typeof useAlternatives>;

function AddTreatment({ lineup: { ways, add } }: { lineup: LineupState }) {
  const { board, framing } = useBench("board", "framing");
  const { data: treatments } = useQuery(treatmentsQuery(board.id));
  const { shots } = framing.plan;
  return (
    <Menu
      opener="Add a treatment"
      disabled={ways.length === 0 || ways.length >= MOST}
      items={(treatments ?? []).map(({ treatment: { name, placement, motion, surround, finish } }) => [
        name,
        () => add(name, { placement, motion, surround, finish, shots }),
      ])}
    />
  );
}

type AlternativesProps = { lineup: LineupState; onChoose: (way: Alternative) => void };

/** All alternatives side by side; or two of them on one another. */
function Alternatives({ lineup: { ways, leaveOut }, onChoose }: AlternativesProps) {
  const { framing } = useBench("framing");
  const [pair, setPair] = useState<string[]>([]);
  const compared = pair.flatMap((name) => ways.find((way) => way.name === name) ?? []);
  const seen = compared.length === 2 ? compared : ways;
  usePlayable(
    seen.map(({ design }) => ({ ...framing.plan, ...design })),
    seen.length === 2 ? LINES.two : LINES.all,
  );
  if (compared.length === 2)
    return <Divider ways={compared as [Alternative, Alternative]} onClose={() => setPair([])} />;
  const mark = (name: string) =>
    setPair((now) => (now.includes(name) ? now.filter((other) => other !== name) : [...now, name]));
  return (
    <ul
      className={`grid grid-cols-2 narrow:grid-cols-1 gap-4 ${ways.length > 4 ? "min-[1120px]:grid-cols-3" : ""}`}
    >
      {ways.map((way, tile) => (
        <Way
          key={way.name}
          {...{ way, tile }}
          marked={pair.includes(way.name)}
          onChoose={() => onChoose(way)}
          onMark={() => mark(way.name)}
          onLeaveOut={ways.length > 2 ? () => leaveOut(way) : undefined}
        />
      ))}
    </ul>
  );
}

/** Lines that each is played with: of two on one another, and of all side by side. */
const LINES = { two: 540, all: 216 };
