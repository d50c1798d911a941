import { lazy, Suspense } from "react";
import { Navigate, Route, Routes } from "react-router";
import { SignIn } from "./floor/SignIn";
import { SessionProvider, useSession } from "./session";

const floor = () => import("./floor/Floor").then(({ Floor: page }) => ({ default: page }));
// Where it is the first view it is fetched beside the session, not after it.
if (window.location.pathname === "/") void floor();
const Floor = lazy(floor);
// What the first view does not show comes when it is gone to.
const JobPage = lazy(() => import("./job/JobPage").then(({ JobPage: page }) => ({ default: page })));
const Join = lazy(() => import("./floor/Join").then(({ Join: page }) => ({ default: page })));
const People = lazy(() => import("./floor/People").then(({ People: page }) => ({ default: page })));
const ShopPage = lazy(() => import("./floor/ShopPage").then(({ ShopPage: page }) => ({ default: page })));
const ShelfPage = lazy(() => import("./shelf/Shelf").then(({ ShelfPage: page }) => ({ default: page })));
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
  const { session } = useSession();
  if (!session) return null;
  return (
    <Routes>
      <Route path="/join/:token" element={<Join />} />
      <Route path="*" element={session.signed_in ? <Shop /> : <SignIn />} />
    </Routes>
  );
}

function Shop() {
  return (
    <Routes>
      <Route path="/" element={<Floor />} />
      <Route path="/jobs/:jobId/:step?" element={<JobPage />} />
      <Route path="/people" element={<People />} />
      <Route path="/shop" element={<ShopPage />} />
      <Route path="/shelf/:product?" element={<ShelfPage />} />
      <Route path="/kit" element={<Kit />} />
      <Route path="*" element={<Navigate to="/" replace />} />
    </Routes>
  );
}
