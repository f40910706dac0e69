import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { Tooltip } from "radix-ui";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { RouterProvider } from "react-router";
import "./index.css";
import { retry } from "./api/change";
import { applyTheme } from "./lib/theme";
import { router } from "./routes";
import { Toasts } from "./ui/toast";

applyTheme();
const cache = new QueryClient({
  defaultOptions: { queries: { staleTime: 5_000, refetchOnWindowFocus: false, retry } },
});

createRoot(document.getElementById("root") as HTMLElement).render(
  <StrictMode>
    <QueryClientProvider client={cache}>
      <Tooltip.Provider delayDuration={250}>
        <Toasts>
          <RouterProvider router={router} />
        </Toasts>
      </Tooltip.Provider>
    </QueryClientProvider>
  </StrictMode>,
);
