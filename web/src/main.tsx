import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { lazy, type ReactNode, StrictMode, Suspense } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter, Navigate, Route, Routes } from "react-router";
import { useMe } from "./api/queries";
import { Empty, refused, Trouble, Waiting } from "./parts/empty";
import { Rail } from "./rail";
import { ConnectionStation } from "./stations/connection";
import { ImportStation } from "./stations/import";
import { IssueStation } from "./stations/issue";
import { JobsStation } from "./stations/jobs";
import { JointsStation } from "./stations/joints";
import { LedgerStation } from "./stations/ledger";
import { PatternsStation } from "./stations/patterns";
import { ProgressStation } from "./stations/progress";
import { ScheduleStation } from "./stations/schedule";
import { SignInStation } from "./stations/sign-in";
import { SurveyStation } from "./stations/survey";
import "./style.css";

const BenchStation = lazy(() => import("./stations/bench"));
const CatalogueStation = lazy(() => import("./stations/catalogue"));
const DesignsStation = lazy(() => import("./stations/designs"));
const ModelStation = lazy(() => import("./stations/model"));
const RulebookStation = lazy(() => import("./stations/rulebook"));
const queries = new QueryClient({ defaultOptions: { queries: { retry: 1, refetchOnWindowFocus: false } } });

function Signed({ children }: { children: ReactNode }) {
  const { data, error, refetch } = useMe();
  if (refused(error, data)) return <Trouble error={error} retry={refetch} />;
  return data ? children : <Waiting what="who you are" />;
}

createRoot(document.getElementById("root") as HTMLElement).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <BrowserRouter>
        <Suspense fallback={<Waiting what="the station" />}>
          <Routes>
            <Route path="/sign-in" element={<SignInStation />} />
            <Route
              path="/"
              element={
                <Signed>
                  <JobsStation />
                </Signed>
              }
            />
            <Route
              path="/-/bench"
              element={
                <Signed>
                  <BenchStation />
                </Signed>
              }
            />
            <Route
              path="/-/designs"
              element={
                <Signed>
                  <DesignsStation />
                </Signed>
              }
            />
            <Route
              path="/-/catalogue"
              element={
                <Signed>
                  <CatalogueStation />
                </Signed>
              }
            />
            <Route
              path="/:job"
              element={
                <Signed>
                  <Rail />
                </Signed>
              }
            >
              <Route index element={<Navigate to="model" replace />} />
              <Route path="model" element={<ModelStation />} />
              <Route path="survey" element={<SurveyStation />} />
              <Route path="import" element={<ImportStation />} />
              <Route path="patterns" element={<PatternsStation />} />
              <Route path="joints" element={<JointsStation />} />
              <Route path="rulebook" element={<RulebookStation />} />
              <Route path="ledger" element={<LedgerStation />} />
              <Route path="schedule" element={<ScheduleStation />} />
              <Route path="issue" element={<IssueStation />} />
              <Route path="progress" element={<ProgressStation />} />
              <Route path="connections/:connection" element={<ConnectionStation />} />
              <Route path="*" element={<Empty title="There is no such station" />} />
            </Route>
          </Routes>
        </Suspense>
      </BrowserRouter>
    </QueryClientProvider>
  </StrictMode>,
);
