import { lazy, Suspense } from "react";
import { Navigate, Route, Routes, useLocation } from "react-router";
import { OutOfReach } from "./OutOfReach";
import { SessionProvider, useSession } from "./session";

const floor = () => import("./floor/Floor").then(({ Floor: page }) => ({ default: page }));
// Where it is the first view it is fetched beside the session, not after it.
if (window.location.pathname === "/") void floor();
const Floor = lazy(floor);
// What the first view does not show comes when it is gone to.
const Begin = lazy(() => import("./first/Begin").then(({ Begin: page }) => ({ default: page })));
const Door = lazy(() => import("./floor/SignIn").then(({ Door: page }) => ({ default: page })));
const JobPage = lazy(() => import("./job/JobPage").then(({ JobPage: page }) => ({ default: page })));
const BenchPage = lazy(() => import("./bench/Bench").then(({ BenchPage: page }) => ({ default: page })));
const Join = lazy(() => import("./floor/Join").then(({ Join: page }) => ({ default: page })));
const LetIn = lazy(() => import("./floor/LetIn").then(({ LetIn: page }) => ({ default: page })));
const People = lazy(() => import("./floor/People").then(({ People: page }) => ({ default: page })));
const ShopPage = lazy(() => import("./floor/ShopPage").then(({ ShopPage: page }) => ({ default: page })));
const ShelfPage = lazy(() => import("./shelf/Shelf").then(({ ShelfPage: page }) => ({ default: page })));
const LookOver = lazy(() => import("./floor/LookOver").then(({ LookOver: page }) => ({ default: page })));
const WrongPage = lazy(() => import("./floor/Wrong").then(({ WrongPage: page }) => ({ default: page })));
const WeekPage = lazy(() => import("./week/Week").then(({ WeekPage: page }) => ({ default: page })));
const BuiltPage = lazy(() => import("./built/Built").then(({ BuiltPage: page }) => ({ default: page })));
const SearchPage = lazy(() => import("./found/Search").then(({ SearchPage: page }) => ({ default: page })));
const TaughtPage = lazy(() => import("./taught/Taught").then(({ TaughtPage: page }) => ({ default: page })));
const PracticePage = lazy(() => import("./practice/Practice").then(({ PracticePage: page }) => ({ default: page })));
const LabPage = lazy(() => import("./lab/LabPage").then(({ LabPage: page }) => ({ default: page })));
const GuidePage = lazy(() => import("./guide/Guide").then(({ GuidePage: page }) => ({ default: page })));
const OnlyTheBench = lazy(() => import("./floor/OnlyTheBench").then(({ OnlyTheBench: page }) => ({ default: page })));
const FirstHour = lazy(() => import("./first/FirstHour").then(({ FirstHour: page }) => ({ default: page })));
const Kit = lazy(() => import("./floor/Kit").then(({ Kit: page }) => ({ default: page })));

export function App() {
  return (
    <SessionProvider>
      <Suspense>
        <Places />
      </Suspense>
    </SessionProvider>
  );
}

function Places() {
  const { session, nobodyKnown } = useSession();
  if (nobodyKnown)
    return (
      <main className="p-8">
        <h1 className="text-[1.75rem] font-semibold">The server is out of reach</h1>
        <p className="mt-2 max-w-[46ch] text-[1.25rem]">
          Nothing is kept on this device yet. It is tried again by itself: leave this page open, or look whether the
          wireless is on.
        </p>
      </main>
    );
  if (!session) return null;
  return (
    <Routes>
      <Route path="/join/:token" element={<Join />} />
      <Route path="/let-in" element={<LetIn />} />
      <Route path="*" element={session.signed_in ? <Shop /> : session.nobody_yet ? <Begin /> : <Door />} />
    </Routes>
  );
}

function Shop() {
  const atBench = useLocation().pathname.startsWith("/bench/");
  return (
    <>
      {!atBench && <OutOfReach />}
      <ShopPages />
    </>
  );
}

function ShopPages() {
  const { session } = useSession();
  if (session?.at_tablet) return <BenchPages />;
  return (
    <Routes>
      <Route path="/" element={<Floor />} />
      <Route path="/jobs/:jobId/:step?" element={<JobPage />} />
      <Route path="/bench/:runId" element={<BenchPage />} />
      <Route path="/people" element={<People />} />
      <Route path="/shop" element={<ShopPage />} />
      <Route path="/shelf/lot/:lot" element={<ShelfPage />} />
      <Route path="/shelf/:product?" element={<ShelfPage />} />
      <Route path="/built/:runId" element={<BuiltPage />} />
      <Route path="/search" element={<SearchPage />} />
      <Route path="/taught" element={<TaughtPage />} />
      <Route path="/week" element={<WeekPage />} />
      <Route path="/lab" element={<LabPage />} />
      <Route path="/practice/:piece?" element={<PracticePage />} />
      <Route path="/damage" element={<LookOver />} />
      <Route path="/wrong" element={<WrongPage />} />
      <Route path="/first" element={<FirstHour />} />
      <Route path="/guide/:page?" element={<GuidePage />} />
      <Route path="/kit" element={<Kit />} />
      <Route path="*" element={<Navigate to="/" replace />} />
    </Routes>
  );
}

/** What a tablet may show that was let in for the bench. */
const BenchPages = () => (
  <Routes>
    <Route path="/" element={<Floor />} />
    <Route path="/jobs/:jobId/:step?" element={<JobPage />} />
    <Route path="/bench/:runId" element={<BenchPage />} />
    <Route path="/practice/:piece?" element={<PracticePage />} />
    <Route path="/guide/:page?" element={<GuidePage />} />
    <Route path="*" element={<OnlyTheBench />} />
  </Routes>
);
