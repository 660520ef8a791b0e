import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode, Suspense } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter, Route, Routes } from "react-router";
import "@fontsource-variable/atkinson-hyperlegible-next/wght.css";
import "@fontsource-variable/source-serif-4/wght-italic.css";
import "./app.css";
import { api } from "./api/client";
import { JobsList } from "./jobs/JobsList";
import { Broken } from "./ui/Broken";
import { later } from "./ui/later";
import { setClock } from "./ui/moment";
import { SignIn } from "./ui/SignIn";

const JobScreen = later(() => import("./job/JobScreen").then((part) => part.JobScreen));
const RulesPage = later(() => import("./rules/RulesPage").then((part) => part.RulesPage));
const KeepingPage = later(() => import("./keeping/KeepingPage").then((part) => part.KeepingPage));

const queries = new QueryClient({ defaultOptions: { queries: { retry: 1 } } });
if (import.meta.env.PROD)
  // Without it the page needs the network to open, and is the same otherwise.
  void navigator.serviceWorker?.register("/sw.js").catch(() => undefined);
void api
  .clock()
  .then(({ now, speed, simulated }) => simulated && setClock(now, speed))
  .catch(() => undefined);
const root = document.getElementById("root");
if (!root) throw new Error("The page has no root element.");

createRoot(root).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <BrowserRouter>
        <SignIn />
        <Broken>
          <Suspense fallback={<p className="p-8 text-lg">Opening…</p>}>
            <Routes>
              <Route path="/" element={<JobsList />} />
              <Route path="/jobs/:jobId/:step?" element={<JobScreen />} />
              <Route path="/rules/:id?" element={<RulesPage />} />
              <Route path="/keeping" element={<KeepingPage />} />
              <Route path="*" element={<JobsList />} />
            </Routes>
          </Suspense>
        </Broken>
      </BrowserRouter>
    </QueryClientProvider>
  </StrictMode>,
);
