import { Navigate, Route, Routes } from "react-router";
import { Floor } from "./floor/Floor";
import { Join } from "./floor/Join";
import { People } from "./floor/People";
import { SignIn } from "./floor/SignIn";
import { JobPage } from "./job/JobPage";
import { SessionProvider, useSession } from "./session";

export function App() {
  return (
    <SessionProvider>
      <Places />
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
      <Route path="/people" element={<People />} />
      <Route path="/" element={<Floor />} />
      <Route path="/jobs/:jobId/:step?" element={<JobPage />} />
      <Route path="*" element={<Navigate to="/" replace />} />
    </Routes>
  );
}
