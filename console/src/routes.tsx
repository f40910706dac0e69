import { createBrowserRouter } from "react-router";
import { BenchmarkScreen, BenchmarksScreen } from "./features/benchmarks/screens";
import { CatalogueScreen } from "./features/catalogue/screen";
import { ClientsScreen } from "./features/clients/screen";
import { DeskScreen } from "./features/desk/screen";
import { ReportScreen, ReportsScreen } from "./features/reports/screens";
import { NotFound, Shell } from "./features/shell/shell";
import { SignIn } from "./features/shell/sign-in";
import { ChangesScreen } from "./features/site/changes";
import { CheckScreen } from "./features/site/check";
import { FindingsScreen } from "./features/site/findings";
import { SiteFrame } from "./features/site/frame";
import { InventoryScreen } from "./features/site/inventory";
import { PageScreen } from "./features/site/page";
import { PlanScreen } from "./features/site/plan";
import { SummaryScreen } from "./features/site/summary";
import { TeamScreen } from "./features/team/screen";
import { TodoScreen, TodosScreen } from "./features/todos/screens";

export const router = createBrowserRouter([
  { path: "/sign-in", element: <SignIn /> },
  {
    path: "/",
    element: <Shell />,
    children: [
      { index: true, element: <DeskScreen /> },
      { path: "clients", element: <ClientsScreen /> },
      {
        path: "sites/:siteId",
        element: <SiteFrame />,
        children: [
          { index: true, element: <SummaryScreen /> },
          { path: "findings", element: <FindingsScreen /> },
          { path: "checks/:checkId", element: <CheckScreen /> },
          { path: "inventory", element: <InventoryScreen /> },
          { path: "page", element: <PageScreen /> },
          { path: "changes", element: <ChangesScreen /> },
          { path: "trend", lazy: async () => ({ Component: (await import("./features/site/trend")).TrendScreen }) },
          { path: "plan", element: <PlanScreen /> },
        ],
      },
      { path: "todos", element: <TodosScreen /> },
      { path: "todos/:todoId", element: <TodoScreen /> },
      { path: "benchmarks", element: <BenchmarksScreen /> },
      { path: "benchmarks/:benchmarkId", element: <BenchmarkScreen /> },
      { path: "reports", element: <ReportsScreen /> },
      { path: "reports/:reportId", element: <ReportScreen /> },
      { path: "catalogue", element: <CatalogueScreen /> },
      { path: "team", element: <TeamScreen /> },
      { path: "*", element: <NotFound /> },
    ],
  },
]);
