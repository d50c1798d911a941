import { Link } from "react-router";
import { useTitle } from "../ui/useTitle";
import { PlainHeader } from "./PlainHeader";

/** What a tablet shows that was let in for the bench, where somebody goes to another page of the shop. */
export function OnlyTheBench() {
  useTitle("Only the bench");
  return (
    <>
      <PlainHeader />
      <main className="mx-auto max-w-[760px] px-4 py-8">
        <h1 className="text-[1.75rem] font-semibold">This tablet is for the bench</h1>
        <p className="mt-3 max-w-[52ch] text-[1.125rem]">
          It shows the floor, jobs, the bench, practice and the guide. Everything else of the shop is behind a password:
          press your letter at the top, then “Somebody else works here”, and sign in with your password.
        </p>
        <p className="mt-5">
          <Link
            to="/"
            className="inline-flex min-h-12 items-center rounded-(--radius) bg-ink px-5 font-semibold text-sheet"
          >
            To the floor
          </Link>
        </p>
      </main>
    </>
  );
}
