import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter } from "react-router";
import { App } from "./App";
import "./index.css";
import { dropOld } from "./api/reach";
import { wearLastLook } from "./look";
import { watchForNewVersions } from "./newVersion";

wearLastLook();
void watchForNewVersions().catch(() => undefined);
void dropOld();

// Whether there is a network is found out by asking: what is kept answers without one.
const networkMode = "always";
const queries = new QueryClient({
  defaultOptions: { queries: { retry: false, refetchOnWindowFocus: false, networkMode }, mutations: { networkMode } },
});
const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <BrowserRouter>
          <App />
        </BrowserRouter>
      </QueryClientProvider>
    </StrictMode>,
  );
}
