import type { ComponentType } from "react";
import { createBrowserRouter } from "react-router";
import { DeskScreen } from "./features/desk/screen";
import { NotFound, Shell, Unloadable } from "./features/shell/shell";
import { SiteFrame } from "./features/site/frame";

/** A screen that is fetched when somebody goes there. */
const later = (load: () => Promise<ComponentType>) => ({ lazy: async () => ({ Component: await load() }) });

export const router = createBrowserRouter([
  { path: "/sign-in", ...later(async () => (await import("./features/shell/sign-in")).SignIn) },
  { path: "/forgotten", ...later(async () => (await import("./features/shell/forgotten")).Forgotten) },
  { path: "/new-password", ...later(async () => (await import("./features/shell/new-password")).NewPassword) },
  {
    path: "/",
    element: <Shell />,
    errorElement: <Unloadable />,
    hydrateFallbackElement: <></>,
    children: [
      { index: true, element: <DeskScreen /> },
      { path: "clients", ...later(async () => (await import("./features/clients/screen")).ClientsScreen) },
      { path: "clients/new", ...later(async () => (await import("./features/clients/new-client")).NewClientScreen) },
      { path: "clients/sites", ...later(async () => (await import("./features/clients/sites")).SitesScreen) },
      { path: "clients/week", ...later(async () => (await import("./features/clients/week")).WeekScreen) },
      { path: "clients/presets", ...later(async () => (await import("./features/clients/presets")).PresetsScreen) },
      { path: "clients/:clientId", ...later(async () => (await import("./features/clients/client")).ClientScreen) },
      {
        path: "sites/:siteId",
        element: <SiteFrame />,
        children: [
          { index: true, ...later(async () => (await import("./features/site/summary")).SummaryScreen) },
          { path: "findings", ...later(async () => (await import("./features/site/findings")).FindingsScreen) },
          { path: "checks/:checkId", ...later(async () => (await import("./features/site/check")).CheckScreen) },
          { path: "inventory", ...later(async () => (await import("./features/site/inventory")).InventoryScreen) },
          {
            path: "structure",
            ...later(async () => (await import("./features/site/structure/screen")).StructureScreen),
          },
          { path: "fixes", ...later(async () => (await import("./features/site/fixes")).FixesScreen) },
          { path: "page", ...later(async () => (await import("./features/site/page/screen")).PageScreen) },
          { path: "changes", ...later(async () => (await import("./features/site/changes")).ChangesScreen) },
          { path: "trend", ...later(async () => (await import("./features/site/trend")).TrendScreen) },
          { path: "figures", ...later(async () => (await import("./features/figures/screen")).FiguresScreen) },
          { path: "review", ...later(async () => (await import("./features/sheets/list")).SheetsScreen) },
          { path: "review/:sheetId", ...later(async () => (await import("./features/sheets/sheet")).SheetScreen) },
          { path: "plan", ...later(async () => (await import("./features/site/plan")).PlanScreen) },
        ],
      },
      { path: "todos", ...later(async () => (await import("./features/todos/screens")).TodosScreen) },
      { path: "approvals", ...later(async () => (await import("./features/todos/approvals")).ApprovalsScreen) },
      { path: "todos/recurring", ...later(async () => (await import("./features/todos/recurring")).RecurringScreen) },
      { path: "todos/:todoId", ...later(async () => (await import("./features/todos/detail")).TodoScreen) },
      { path: "benchmarks", ...later(async () => (await import("./features/benchmarks/screens")).BenchmarksScreen) },
      {
        path: "benchmarks/:benchmarkId",
        ...later(async () => (await import("./features/benchmarks/benchmark")).BenchmarkScreen),
      },
      { path: "reports", ...later(async () => (await import("./features/reports/screens")).ReportsScreen) },
      {
        path: "reports/templates/:templateId",
        ...later(async () => (await import("./features/reports/templates")).TemplateScreen),
      },
      { path: "reports/:reportId", ...later(async () => (await import("./features/reports/report")).ReportScreen) },
      { path: "portal", ...later(async () => (await import("./features/portal/screen")).OwnPortalScreen) },
      {
        path: "clients/:clientId/portal",
        ...later(async () => (await import("./features/portal/screen")).ClientPortalScreen),
      },
      { path: "catalogue", ...later(async () => (await import("./features/catalogue/screen")).CatalogueScreen) },
      {
        path: "catalogue/profiles",
        ...later(async () => (await import("./features/catalogue/profiles")).ProfilesScreen),
      },
      {
        path: "catalogue/profiles/:profileId",
        ...later(async () => (await import("./features/catalogue/profile")).ProfileScreen),
      },
      { path: "team", ...later(async () => (await import("./features/team/screen")).TeamScreen) },
      { path: "*", element: <NotFound /> },
    ],
  },
]);
