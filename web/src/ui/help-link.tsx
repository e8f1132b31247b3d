import { Link } from "react-router";

/** The way to the help on a task, where the question comes up. */
export function HelpLink({ task, children }: { task: string; children: string }) {
  return (
    <Link to={`/help/${task}`} target="_blank" className="justify-self-start text-ochre underline">
      {children}
    </Link>
  );
}
