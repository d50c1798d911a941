import { Navigate, Route, Routes } from "react-router";
import { Floor } from "./floor/Floor";
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
  if (!session.signed_in) return <SignIn />;
  return (
    <Routes>
      <Route path="/" element={<Floor />} />
      <Route path="/jobs/:jobId/:step?" element={<JobPage />} />
      <Route path="*" element={<Navigate to="/" replace />} />
    </Routes>
  );
}
