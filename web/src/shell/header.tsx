import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { Link } from "react-router";
import { AT_WORK, rendersQuery, visitorQuery } from "../api/queries";
import { RenderNotices } from "../rendering/notices";
import { LookMenu } from "../ui/look";
import { AccountMenu } from "./account-menu";

/** The line along the top: the path to this page, and renders in progress. */
export function Header({
  projectId,
  trail,
  children,
}: {
  projectId?: number;
  trail?: ReactNode;
  children?: ReactNode;
}) {
  const { data: visitor } = useQuery(visitorQuery);
  return (
    <>
      <a
        href="#main"
        className="sr-only focus:not-sr-only focus:absolute focus:top-2 focus:left-2 focus:z-50 focus:bg-sheet focus:px-3 focus:py-2"
      >
        Skip to content
      </a>
      <header className="top-0 z-20 flex narrow:sticky min-h-12 shrink-0 narrow:flex-wrap items-center gap-4 snug:gap-2 border-rule border-b bg-paper px-4 narrow:px-2 narrow:py-1">
        <Link to="/" className="text-[17px] font-bold tracking-tight" style={{ fontStretch: "120%" }}>
          Cadrage
        </Link>
        <nav aria-label="Breadcrumb" className="flex min-w-0 items-center gap-2">
          {trail}
        </nav>
        <div className="grow" />
        {children}
        {!children && (
          <>
            <LookMenu />
            {visitor?.signed_in && (
              <>
                <Link to="/formats" className="text-soft hover:text-ink">
                  Formats
                </Link>
                <Link to="/help" className="text-soft hover:text-ink">
                  Help
                </Link>
                {visitor.administrator && (
                  <Link to="/house" className="text-soft hover:text-ink">
                    People
                  </Link>
                )}
              </>
            )}
          </>
        )}
        {projectId !== undefined && <RendersLink projectId={projectId} />}
        {visitor?.signed_in && !visitor.demonstration && <AccountMenu name={visitor.name} />}
      </header>
      {projectId !== undefined && <RenderNotices projectId={projectId} />}
    </>
  );
}

function RendersLink({ projectId }: { projectId: number }) {
  const { data } = useQuery(rendersQuery(projectId));
  const working = data?.filter((render) => AT_WORK.includes(render.state)).length ?? 0;
  return (
    <Link to={`/projects/${projectId}/renders`} className="whitespace-nowrap text-soft hover:text-ink">
      Renders {working > 0 && <span className="num">{working} in queue</span>}
    </Link>
  );
}
