import { Link } from "react-router";
import type { Task } from "./tasks";

/** The way to the help on a task, where the question comes up. */
export function HelpLink({ task, children }: { task: Task["name"]; children: string }) {
  return (
    <Link to={`/help/${task}`} target="_blank" className="justify-self-start text-ochre underline">
      {children}
    </Link>
  );
}
