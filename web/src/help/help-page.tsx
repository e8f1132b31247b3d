import { Link, useParams, useSearchParams } from "react-router";
import { Header } from "../shell/header";
import { useTitle } from "../ui/use-title";
import { TASKS, type Task, tasksWith } from "./tasks";

/** Help: one page a task, found by its words. */
export function HelpPage() {
  const { task: name } = useParams();
  const [query, setQuery] = useSearchParams();
  const search = query.get("search") ?? "";
  const found = tasksWith(search);
  const task = TASKS.find((one) => one.name === name);
  useTitle(task?.title, "Help");
  return (
    <div className="flex min-h-full flex-col">
      <Header trail={<span className="font-semibold">Help</span>} />
      <div className="flex grow narrow:flex-col">
        <nav
          aria-label="Tasks"
          className="w-72 narrow:order-last narrow:w-full shrink-0 border-rule border-r narrow:border-r-0 p-6"
        >
          <input
            type="search"
            aria-label="Search the help"
            placeholder="Search"
            className="mb-4 w-full rounded border border-edge bg-sheet px-3 py-1.5"
            value={search}
            onChange={({ target }) =>
              setQuery(target.value ? { search: target.value } : {}, { replace: true })
            }
          />
          <ul>
            {found.map((one) => (
              <li key={one.name}>
                <Link
                  to={`/help/${one.name}${search && `?search=${encodeURIComponent(search)}`}`}
                  aria-current={one === task ? "page" : undefined}
                  className={`block border-l-3 px-3 py-1.5 ${one === task ? "border-ochre bg-sheet font-semibold" : "border-transparent hover:bg-sheet"}`}
                >
                  {one.title}
                </Link>
              </li>
            ))}
          </ul>
          {found.length === 0 && <p className="text-soft">No page has all of these words.</p>}
        </nav>
        <main id="main" tabIndex={-1} className="max-w-3xl p-6 outline-none">
          {task ? <TaskText task={task} /> : <Beginning />}
        </main>
      </div>
    </div>
  );
}

function TaskText({ task }: { task: Task }) {
  return (
    <>
      <h1 className="mb-4 text-[26px] font-bold tracking-tight">{task.title}</h1>
      <ol className="mb-5 grid list-decimal gap-2 pl-5 text-[14px]">
        {task.steps.map((step) => (
          <li key={step}>{step}</li>
        ))}
      </ol>
      <img alt={`The page at this task`} className="mb-5 border border-rule" src={task.picture} />
      <ul className="grid gap-2">
        {task.notes.map((note) => (
          <li key={note} className="border-l-3 border-moss pl-3">
            {note}
          </li>
        ))}
      </ul>
    </>
  );
}

function Beginning() {
  return (
    <>
      <h1 className="mb-4 text-[26px] font-bold tracking-tight">Help</h1>
      <p className="text-[14px]">
        Choose what you want to do. Press ? on any page for the keys that do something there.
      </p>
    </>
  );
}
