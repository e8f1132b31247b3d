import "@fontsource-variable/archivo";
import "@fontsource/ibm-plex-mono/400.css";
import "@fontsource/ibm-plex-mono/500.css";
import "./index.css";
import { MutationCache, QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { Tooltip } from "radix-ui";
import { lazy, StrictMode, Suspense } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter, Route, Routes } from "react-router";
import { Problem } from "./api/client";
import { guardLeaving } from "./api/saves";
import { forgetLeft, leaveAll, resumeAll, unsaved } from "./bench/editor/editors";
import { BoardPage } from "./board/board-page";
import { FilesIn } from "./intake/files-in";
import { uploading } from "./intake/uploads";
import { ProjectsPage } from "./projects/projects-page";
import { KeysHelp } from "./ui/keys-help";
import { LookOfPage } from "./ui/look";
import { RouteFocus } from "./ui/route-focus";

const FormatsPage = lazy(() =>
  import("./formats/formats-page").then((module) => ({ default: module.FormatsPage })),
);
const openBench = () => import("./bench/bench-page");
const BenchPage = lazy(() => openBench().then((module) => ({ default: module.BenchPage })));
const RendersPage = lazy(() =>
  import("./renders/renders-page").then((module) => ({ default: module.RendersPage })),
);
const HousePage = lazy(() => import("./house/house-page").then((module) => ({ default: module.HousePage })));
const HelpPage = lazy(() => import("./help/help-page").then((module) => ({ default: module.HelpPage })));
const LineupPage = lazy(() =>
  import("./bench/lineup/lineup-page").then((module) => ({ default: module.LineupPage })),
);
// The server may stand on this very machine: it is asked even where the browser sees no network.
const networkMode = "always";
const AGAIN_MS = 4000;
/** Expected by one part of a page is not asked for again by the next. */
const FRESH_MS = 1000;
const client: QueryClient = new QueryClient({
  // Whatever is done may be in the history.
  mutationCache: new MutationCache({ onSuccess: () => client.invalidateQueries({ queryKey: ["history"] }) }),
  defaultOptions: {
    queries: {
      retry: 1,
      refetchOnWindowFocus: false,
      staleTime: FRESH_MS,
      networkMode,
      // Requests that failed while the server was away are repeated once it is back.
      refetchInterval: ({ state: { error } }) => error instanceof Problem && error.status === 0 && AGAIN_MS,
    },
    mutations: { networkMode },
  },
});
guardLeaving(() => client.isMutating() > 0 || uploading() || unsaved(), leaveAll, forgetLeft);
resumeAll(client);
// The bench is where people go next: it comes once the first page is there.
requestIdleCallback(() => openBench().catch(() => undefined), { timeout: 3000 });
const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={client}>
        <Tooltip.Provider delayDuration={400}>
          <BrowserRouter>
            <LookOfPage />
            <KeysHelp />
            <FilesIn />
            <RouteFocus />
            <Suspense>
              <Routes>
                <Route path="/" element={<ProjectsPage />} />
                <Route path="/formats" element={<FormatsPage />} />
                <Route path="/house" element={<HousePage />} />
                <Route path="/help/:task?" element={<HelpPage />} />
                <Route path="/projects/:projectId" element={<BoardPage />} />
                <Route path="/projects/:projectId/framings/:framingId/lineup" element={<LineupPage />} />
                <Route path="/projects/:projectId/renders" element={<RendersPage />} />
                <Route path="/projects/:projectId/framings/:framingId" element={<BenchPage />} />
              </Routes>
            </Suspense>
          </BrowserRouter>
        </Tooltip.Provider>
      </QueryClientProvider>
    </StrictMode>,
  );
}
