import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, Navigate, useLocation, useNavigate, useParams } from "react-router";
import { type Alternative, api, type Board, type Footage, type Framing, unwrap } from "../../api/client";
import { boardQuery, framingQuery, lineupQuery, treatmentsQuery } from "../../api/queries";
import { Header } from "../../shell/header";
import { Button } from "../../ui/button";
import { useKeys } from "../../ui/keyboard";
import { leftBoard } from "../../ui/left-board";
import { Menu } from "../../ui/menu";
import { ProblemNote } from "../../ui/problem-note";
import { stemOf } from "../../ui/stem";
import { useTitle } from "../../ui/use-title";
import { editorOf } from "../editor/editors";
import { usePlayer, useWanted } from "../playing/use-player";
import { wantedOf } from "../playing/wanted";
import { moment } from "../timecode";
import { Timeline } from "../timeline/timeline";
import { timeKeys } from "../use-keys";
import { frameIn } from "../use-place";
import { useRange } from "../use-range";
import { useRest, useTransport } from "../use-transport";
import { Divider } from "./divider";
import { Way } from "./way";

const MOST = 9;

/** Whole alternatives of one moment side by side, each with its cost; one is chosen. */
export function LineupPage() {
  const { projectId, framingId } = useParams();
  const { data: board } = useQuery(boardQuery(Number(projectId)));
  const { data: framing } = useQuery(framingQuery(Number(framingId)));
  const footage = board?.footage.find(({ id }) => id === framing?.footage);
  if (board?.role === "see") return <Navigate replace to={`/projects/${board.id}`} />;
  if (!board || !framing || !footage) return null;
  return <Lineup board={board} footage={footage} framing={framing} />;
}

function Lineup({ board, footage, framing }: { board: Board; footage: Footage; framing: Framing }) {
  const { id: framingId, plan } = framing;
  const { data, error } = useQuery(lineupQuery(framingId));
  const { data: treatments } = useQuery(treatmentsQuery(board.id));
  const { search } = useLocation();
  const [ways, setWays] = useState<Alternative[]>([]);
  const [pair, setPair] = useState<string[]>([]);
  const transport = useTransport(
    footage.timing.frames,
    footage.timing.rate,
    frameIn(new URLSearchParams(search)),
  );
  const player = usePlayer(transport, footage.timing.rate);
  const range = useRange(footage);
  useKeys(timeKeys(transport, range));
  const time = moment(useRest(transport), footage.timing.rate);
  const navigate = useNavigate();
  useTitle("Line-up", stemOf(footage.name), board.name);
  const client = useQueryClient();
  const bench = `/projects/${board.id}/framings/${framingId}${search}`;
  useEffect(() => setWays(data ?? []), [data]);

  async function choose({ design, name }: Alternative) {
    const editor = editorOf(client, board.id, framingId);
    editor.commit({ ...plan, ...design }, `Line-up: ${name}`);
    await editor.flush();
    navigate(bench);
  }

  async function add(name: string, design: Alternative["design"]) {
    const params = { path: { framing_id: framingId } };
    const measure = await unwrap(
      api.POST("/api/framings/{framing_id}/measure", { params, body: { design, time } }),
    );
    setWays((now) => [...now.filter((way) => way.name !== name), { name, design, measure }].slice(0, MOST));
  }

  const first = ways[0];
  const compared = pair.flatMap((name) => ways.find((way) => way.name === name) ?? []);
  const seen = compared.length === 2 ? compared : ways;
  useWanted(player, seen.length ? togetherOf(framing, footage, seen) : null);
  return (
    <div className="flex h-full min-h-[600px] flex-col overflow-hidden">
      <Header
        projectId={board.id}
        trail={
          <>
            <Link className="whitespace-nowrap text-soft hover:text-ink" to={leftBoard(board.id)}>
              {board.name}
            </Link>
            <span className="text-soft">/</span>
            <Link className="truncate text-soft hover:text-ink" to={bench}>
              {stemOf(footage.name)}
            </Link>
            <span className="text-soft">/</span>
            <h1 className="font-semibold">Line-up</h1>
          </>
        }
      >
        <Menu
          opener="Add a treatment"
          disabled={!first || ways.length >= MOST}
          items={(treatments ?? []).map(({ treatment: { name, placement, motion, surround, finish } }) => [
            name,
            () => first && add(name, { placement, motion, surround, finish, shots: plan.shots }),
          ])}
        />
        <Button onClick={() => navigate(bench)}>Back to the bench</Button>
      </Header>
      <ProblemNote error={error} />
      <main id="main" tabIndex={-1} className="outline-none min-h-0 grow overflow-y-auto p-4">
        {compared.length === 2 ? (
          <Divider
            framingId={framingId}
            ways={compared as [Alternative, Alternative]}
            {...{ time, player }}
            onClose={() => setPair([])}
          />
        ) : (
          <ul
            className={`grid grid-cols-2 narrow:grid-cols-1 gap-4 ${ways.length > 4 ? "min-[1120px]:grid-cols-3" : ""}`}
          >
            {ways.map((way, tile) => (
              <Way
                key={way.name}
                {...{ framingId, way, time, player, tile }}
                marked={pair.includes(way.name)}
                onChoose={() => choose(way)}
                onMark={() =>
                  setPair((now) =>
                    now.includes(way.name) ? now.filter((name) => name !== way.name) : [...now, way.name],
                  )
                }
                onLeaveOut={
                  ways.length > 2 ? () => setWays(ways.filter((other) => other !== way)) : undefined
                }
              />
            ))}
          </ul>
        )}
      </main>
      <Timeline
        footage={footage}
        aspect={first?.measure.display_aspect ?? 1}
        transport={transport}
        range={range}
        player={player}
      />
    </div>
  );
}

/** Lines that each is played with: of two on one another, and of all side by side. */
const LINES = { two: 540, all: 216 };

function togetherOf({ id, plan }: Framing, footage: Footage, ways: Alternative[]) {
  const plans = ways.map(({ design }) => ({ ...plan, ...design }));
  return wantedOf(id, footage, plans, ways.length === 2 ? LINES.two : LINES.all);
}
