import { useMutation, useQuery } from "@tanstack/react-query";
import { Link, useNavigate } from "react-router";
import { client, taken } from "../api/client";
import { dropKept } from "../api/reach";
import { useSession } from "../session";
import { Button } from "../ui/Button";
import { Sign } from "../ui/Sign";
import { useTitle } from "../ui/useTitle";

/** Where a tablet comes to by the code that an owner shows: what it becomes, and the press that lets it in. */
export function LetIn() {
  useTitle("Let this tablet in");
  const go = useNavigate();
  const { keep } = useSession();
  // Behind the # of the address, so that it is in no log.
  const code = window.location.hash.slice(1);
  const known = useQuery({
    queryKey: ["code", code],
    queryFn: () => taken(client.POST("/api/devices/code", { body: { code } })),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const enter = useMutation({
    mutationFn: () => taken(client.POST("/api/devices/let-in", { body: { code } })),
    onSuccess: async () => {
      await dropKept();
      // Who was signed in here is so no more.
      keep(await taken(client.GET("/api/session")));
      void go("/", { replace: true });
    },
  });
  const refused = known.error ?? enter.error;
  return (
    <main className="grid min-h-dvh place-items-center p-6">
      <div className="w-full max-w-[460px]">
        <Sign size={44} />
        {known.data && (
          <>
            <p className="lab mt-6">{known.data.shop}</p>
            <h1 className="text-[2rem] leading-tight font-semibold">This tablet becomes “{known.data.name}”</h1>
            <p className="mt-3 text-[1.125rem]">
              It opens the bench of {known.data.shop} without a password. Who works here presses his initials.{" "}
              {known.data.by} made the code, and can withdraw the tablet at any time.
            </p>
            <Button look="main" className="mt-6 min-h-16 w-full text-[1.25rem]" onClick={() => enter.mutate()}>
              Let this tablet in
            </Button>
          </>
        )}
        {refused && (
          <>
            <p role="alert" className="mt-6 text-[1.25rem] text-stop">
              {refused.message}
            </p>
            <Link to="/" className="link mt-4 inline-block">
              To the sign-in
            </Link>
          </>
        )}
      </div>
    </main>
  );
}
