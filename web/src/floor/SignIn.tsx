import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useId, useState } from "react";
import { client, Refused, taken } from "../api/client";
import { useSession } from "../session";
import { Button } from "../ui/Button";
import { Sign } from "../ui/Sign";
import { WhoWorks } from "./WhoWorks";

/** The door: initials at a tablet of the bench, else a name and a password. */
export function Door() {
  const here = useQuery({ queryKey: ["here"], queryFn: () => taken(client.GET("/api/devices/here")) });
  const [byPassword, setByPassword] = useState(false);
  if (here.isPending) return null;
  if (here.data?.name && !byPassword) return <WhoWorks here={here.data} onPassword={() => setByPassword(true)} />;
  return <SignIn onBack={here.data?.name ? () => setByPassword(false) : undefined} />;
}

function SignIn({ onBack }: { onBack?: () => void }) {
  const { signIn } = useSession();
  const [person, setPerson] = useState("");
  const [password, setPassword] = useState("");
  const [error, setError] = useState("");
  const id = useId();
  async function submit(event: FormEvent) {
    event.preventDefault();
    try {
      await signIn(person, password);
    } catch (refused) {
      setError(refused instanceof Refused ? refused.message : "something went wrong: try again");
    }
  }
  const box = "field min-h-12 w-full text-[1.0625rem]";
  return (
    <main className="grid min-h-dvh place-items-center p-6">
      <form onSubmit={submit} className="w-full max-w-[360px]">
        <div className="mb-8 flex items-center gap-3">
          <Sign size={44} />
          <h1 className="text-[1.625rem] font-semibold">Inch Cradle</h1>
        </div>
        <label className="lab mb-1 block" htmlFor={`${id}-person`}>
          Name
        </label>
        <input
          id={`${id}-person`}
          className={box}
          autoComplete="username"
          value={person}
          onChange={(event) => setPerson(event.target.value)}
        />
        <label className="lab mt-4 mb-1 block" htmlFor={`${id}-password`}>
          Password
        </label>
        <input
          id={`${id}-password`}
          className={box}
          type="password"
          autoComplete="current-password"
          value={password}
          onChange={(event) => setPassword(event.target.value)}
        />
        <p role="alert" className="min-h-7 pt-1 text-[0.875rem] text-stop">
          {error}
        </p>
        <Button look="main" type="submit" className="w-full">
          Sign in
        </Button>
        <p className="lab mt-4">
          Forgotten it? An owner of the shop makes you a link, under People. Whoever runs the server gives a new one
          with <code>inch-cradle password</code> and the name.
        </p>
        {onBack && (
          <Button look="text" className="mt-3" onClick={onBack}>
            Back to the initials
          </Button>
        )}
      </form>
    </main>
  );
}
