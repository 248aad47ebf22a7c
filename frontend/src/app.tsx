import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { lazy, Suspense } from "react";
import { createBrowserRouter, Navigate, RouterProvider } from "react-router";
import { BalancePage } from "./chapters/balance/BalancePage";
import { JobsPage } from "./chapters/jobs/JobsPage";
import { CapacityPage } from "./chapters/capacity/CapacityPage";
import { FactorsPage } from "./chapters/floor/FactorsPage";
import { FloorPage } from "./chapters/floor/FloorPage";
import { PlanFloor } from "./chapters/floor/PlanFloor";
import { LayoutPage } from "./chapters/layout/LayoutPage";
import { OperationsPage } from "./chapters/operations/OperationsPage";
import { OrderPage } from "./chapters/order/OrderPage";
import { ProgramPage } from "./chapters/program/ProgramPage";
import { PapersPage } from "./chapters/papers/PapersPage";
import { QuotePage } from "./chapters/quotes/QuotePage";
import { QuotesPage } from "./chapters/quotes/QuotesPage";
import { ToolsPage } from "./chapters/tools/ToolsPage";
import { RevisionPrice } from "./chapters/part/RevisionPrice";
import { SetupsPage } from "./chapters/setups/SetupsPage";
import { PlanFrame } from "./shell/Frame";
import { ReadingsProvider } from "./shell/readings";

// the model view and the chart bring large libraries with them: loaded when first looked at
const PartPage = lazy(() => import("./chapters/part/PartPage").then((m) => ({ default: m.PartPage })));
const ComparePage = lazy(() =>
  import("./chapters/part/ComparePage").then((m) => ({ default: m.ComparePage })),
);
const AlternativesPage = lazy(() =>
  import("./chapters/alternatives/AlternativesPage").then((m) => ({ default: m.AlternativesPage })),
);
const PricePage = lazy(() => import("./chapters/price/PricePage").then((m) => ({ default: m.PricePage })));

const queries = new QueryClient({ defaultOptions: { queries: { staleTime: 2000, retry: 1 } } });
const wait = <p className="empty">Opening …</p>;

const router = createBrowserRouter([
  { path: "/", element: <JobsPage /> },
  { path: "/tools", element: <ToolsPage /> },
  { path: "/quotes", element: <QuotesPage /> },
  { path: "/quotes/:id", element: <QuotePage /> },
  { path: "/capacity", element: <CapacityPage /> },
  { path: "/floor", element: <FactorsPage /> },
  { path: "/floor/:id/:setup", element: <FloorPage /> },
  {
    path: "/plans/:id",
    element: <PlanFrame />,
    children: [
      { index: true, element: <Navigate to="part" replace /> },
      {
        path: "part",
        element: (
          <Suspense fallback={wait}>
            <PartPage />
          </Suspense>
        ),
      },
      {
        path: "part/compare/:revision",
        element: (
          <Suspense fallback={wait}>
            <ComparePage />
          </Suspense>
        ),
      },
      { path: "part/revision-price", element: <RevisionPrice /> },
      { path: "setups", element: <SetupsPage /> },
      { path: "layout", element: <LayoutPage /> },
      { path: "operations", element: <OperationsPage /> },
      { path: "order", element: <OrderPage /> },
      { path: "balance", element: <BalancePage /> },
      { path: "program", element: <ProgramPage /> },
      {
        path: "price",
        element: (
          <Suspense fallback={wait}>
            <PricePage />
          </Suspense>
        ),
      },
      { path: "papers", element: <PapersPage /> },
      { path: "floor", element: <PlanFloor /> },
      {
        path: "alternatives",
        element: (
          <Suspense fallback={wait}>
            <AlternativesPage />
          </Suspense>
        ),
      },
    ],
  },
  {
    path: "*",
    element: (
      <p className="empty">
        There is nothing at this address. <a href="/">All jobs</a>
      </p>
    ),
  },
]);

export function App() {
  return (
    <QueryClientProvider client={queries}>
      <ReadingsProvider>
        <RouterProvider router={router} />
      </ReadingsProvider>
    </QueryClientProvider>
  );
}
