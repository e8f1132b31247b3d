import { useSearchParams } from "react-router";
import { Header } from "../shell/header";
import { Fold } from "../ui/fold";
import { FourSteps } from "../ui/four-steps";
import { Note } from "../ui/note";
import { ProblemNote } from "../ui/problem-note";
import { useTitle } from "../ui/use-title";
import { BeginProject } from "./begin-project";
import { BeginWithSamples } from "./begin-with-samples";
import { ProjectRow } from "./project-row";
import { found, type Order, useProjects } from "./use-projects";

const MANY = 5;
const GRID = "grid grid-cols-[repeat(auto-fill,minmax(min(100%,340px),1fr))] gap-x-6 gap-y-7";
const ORDERS: Record<Order, string> = { newest: "Newest first", oldest: "Oldest first", name: "Name" };

/** All projects of the visitor. */
export function ProjectsPage() {
  const projects = useProjects();
  const [query, setQuery] = useSearchParams();
  useTitle("Projects");
  const search = query.get("search") ?? "";
  const order = (query.get("sort") ?? "newest") as Order;
  const set: SearchProps["set"] = (name, value) => {
    const next = new URLSearchParams(query);
    if (value) next.set(name, value);
    else next.delete(name);
    setQuery(next, { replace: true });
  };
  const all = projects.data ?? [];
  const seen = found(all, search, order);
  const [here, away] = [seen.filter((row) => !row.put_away), seen.filter((row) => row.put_away)];
  return (
    <div className="flex min-h-full flex-col">
      <Header trail={<span className="font-semibold">Projects</span>} />
      <main id="main" tabIndex={-1} className="w-full p-6 outline-none">
        <div className="mb-4 flex flex-wrap items-baseline gap-4">
          <h1 className="grow text-[26px] font-bold tracking-tight">Projects</h1>
          {all.length > MANY && <SearchAndSort {...{ search, order, set }} />}
        </div>
        {projects.data?.length === 0 && <HowItWorks />}
        <ProblemNote error={projects.error} />
        {projects.removed && (
          <Note text={`Deleted ${projects.removed.name}.`} onUndo={projects.undo} onClose={projects.forget} />
        )}
        <ul className={`mb-6 ${GRID}`}>
          {here.map((row) => (
            <ProjectRow key={row.id} {...{ row, projects }} />
          ))}
          {projects.data && here.length === 0 && (
            <li className="col-span-full py-3 text-soft">
              {search
                ? "No project has these words in its name."
                : "No project yet. A project holds the clips you must deliver and the frames they go into."}
            </li>
          )}
        </ul>
        <div className="flex flex-wrap gap-2">
          <BeginProject />
          <BeginWithSamples />
        </div>
        {away.length > 0 && (
          <div className="mt-8">
            <Fold title="Archive" state={String(away.length)}>
              <ul className={GRID}>
                {away.map((row) => (
                  <ProjectRow key={row.id} {...{ row, projects }} />
                ))}
              </ul>
            </Fold>
          </div>
        )}
      </main>
    </div>
  );
}

type SearchProps = { search: string; order: Order; set: (name: "search" | "sort", value: string) => void };

const SearchAndSort = ({ search, order, set }: SearchProps) => (
  <>
    <input
      type="search"
      aria-label="Search projects"
      placeholder="Search"
      className="w-52 rounded border border-edge bg-sheet px-3 py-1"
      value={search}
      onChange={(event) => set("search", event.target.value)}
    />
    <select
      aria-label="Sort projects"
      className="rounded border border-edge bg-sheet px-2 py-1"
      value={order}
      onChange={(event) => set("sort", event.target.value)}
    >
      {Object.entries(ORDERS).map(([value, title]) => (
        <option key={value} value={value}>
          {title}
        </option>
      ))}
    </select>
  </>
);

const HowItWorks = () => (
  <section aria-label="How it works" className="mb-8">
    <p className="mb-6 max-w-3xl text-[17px]">
      Cadrage turns clips of any shape into files of every shape you must deliver, without distortion, and
      fills what stays empty with a background made of the clip.
    </p>
    <FourSteps />
  </section>
);
