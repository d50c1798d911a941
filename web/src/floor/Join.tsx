import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { useNavigate, useParams } from "react-router";
import { client, Refused, taken } from "../api/client";
import { useSession } from "../session";
import { Button } from "../ui/Button";
import { Sign } from "../ui/Sign";

/** What an invitation's link opens: join as who is signed in, or with a new name. */
export function Join() {
  const { token = "" } = useParams();
  const { session, keep } = useSession();
  const go = useNavigate();
  const [person, setPerson] = useState("");
  const [password, setPassword] = useState("");
  const [error, setError] = useState("");
  const invitation = useQuery({
    queryKey: ["invitation", token],
    queryFn: () => taken(client.GET("/api/invitations/{token}", { params: { path: { token } } })),
  });
  const renews = invitation.data?.renews;
  async function submit(event: FormEvent) {
    event.preventDefault();
    try {
      keep(
        await taken(
          client.POST("/api/invitations/{token}", { params: { path: { token } }, body: { person, password } }),
        ),
      );
      go("/", { replace: true });
    } catch (refused) {
      setError(refused instanceof Refused ? refused.message : "something went wrong: try again");
    }
  }
  const box = "field mb-4 min-h-12 w-full text-[1.0625rem]";
  return (
    <main className="grid min-h-dvh place-items-center p-6">
      <form onSubmit={submit} className="w-full max-w-[380px]">
        <Sign size={44} />
        {invitation.isError && <h1 className="mt-4 text-[1.375rem] font-semibold">{invitation.error.message}</h1>}
        {invitation.data && (
          <>
            <h1 className="mt-4 text-[1.5rem] font-semibold leading-tight">
              {renews
                ? `${invitation.data.invited_by} lets you choose a new password, ${renews}`
                : `${invitation.data.invited_by} invites you to ${invitation.data.shop}, as ${invitation.data.role}`}
            </h1>
            {session?.signed_in && !renews ? (
              <p className="my-5">You join as {session.person}.</p>
            ) : (
              <div className="mt-5">
                {!renews && (
                  <>
                    <label className="lab mb-1 block" htmlFor="join-person">
                      The name you want
                    </label>
                    <input
                      id="join-person"
                      className={box}
                      autoComplete="username"
                      value={person}
                      onChange={(event) => setPerson(event.target.value)}
                    />
                  </>
                )}
                <label className="lab mb-1 block" htmlFor="join-password">
                  A password
                </label>
                <input
                  id="join-password"
                  className={box}
                  type="password"
                  autoComplete="new-password"
                  value={password}
                  onChange={(event) => setPassword(event.target.value)}
                />
              </div>
            )}
            <p role="alert" className="min-h-6 text-[0.875rem] text-stop">
              {error}
            </p>
            <Button look="main" type="submit" className="w-full">
              {renews ? "Take it, and sign in" : "Join"}
            </Button>
          </>
        )}
      </form>
    </main>
  );
}
