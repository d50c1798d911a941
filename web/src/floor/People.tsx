import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useId, useState } from "react";
import { client, type Role, taken } from "../api/client";
import { useSession } from "../session";
import { ShopProvider, useShop } from "../shop";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { useTitle } from "../ui/useTitle";
import { Deeds } from "./Deeds";
import { PlainHeader } from "./PlainHeader";
import { MyShortNumber, Tablets } from "./Tablets";

const roles = [
  ["owner", "owner"],
  ["laminator", "laminator"],
  ["viewer", "viewer"],
] as const;

/** Who belongs to the shop and may do what; the link that lets another in; one's own password. */
export function People() {
  useTitle("People");
  const { shopId } = useSession();
  return (
    <>
      <PlainHeader />
      <ShopProvider key={shopId} shopId={shopId}>
        <Members />
      </ShopProvider>
    </>
  );
}

function Members() {
  const { session, shopId } = useSession();
  const shop = session?.shops.find((other) => other.id === shopId);
  const queries = useQueryClient();
  const people = useQuery({
    queryKey: ["people", shopId],
    queryFn: () => taken(client.GET("/api/shops/{shop_id}/people", { params: { path: { shop_id: shopId } } })),
    enabled: !!shopId,
  });
  // With the role of an owner go the links he made.
  const again = () =>
    Promise.all([
      queries.invalidateQueries({ queryKey: ["people", shopId] }),
      queries.invalidateQueries({ queryKey: ["invitations", shopId] }),
    ]);
  const setRole = useMutation({
    mutationFn: ({ person, role }: { person: string; role: Role }) =>
      taken(
        client.PUT("/api/shops/{shop_id}/people/{person}", {
          params: { path: { shop_id: shopId, person } },
          body: { role },
        }),
      ),
    onSuccess: again,
  });
  const remove = useMutation({
    mutationFn: (person: string) =>
      taken(client.DELETE("/api/shops/{shop_id}/people/{person}", { params: { path: { shop_id: shopId, person } } })),
    onSuccess: again,
  });
  const renew = useMutation({
    mutationFn: (person: string) =>
      taken(
        client.POST("/api/shops/{shop_id}/people/{person}/new-password", {
          params: { path: { shop_id: shopId, person } },
        }),
      ),
    onSuccess: again,
  });
  const { day } = useShop();
  const [asked, ask] = useState("");
  const owner = people.data?.your_role === "owner";
  const refused = setRole.error ?? remove.error ?? renew.error;
  return (
    <main className="mx-auto max-w-[760px] px-4 py-7">
      <h1 className="text-[1.625rem] font-semibold">People of {shop?.name}</h1>
      <p className="lab">Owners decide who belongs. Laminators plan, mix and write down. Viewers look.</p>
      <ul className="mt-4 border-t border-rule">
        {people.data?.people.map((member) => (
          <li
            key={member.person}
            className="flex flex-wrap items-center justify-between gap-3 border-b border-rule py-2.5"
          >
            <span className="text-[1.0625rem] font-medium">{member.person}</span>
            {owner ? (
              <span className="flex flex-wrap items-center gap-3">
                <Choice
                  label={`Role of ${member.person}`}
                  hideLabel
                  value={member.role}
                  options={roles}
                  onChange={(role) => setRole.mutate({ person: member.person, role })}
                />
                {asked === member.person ? (
                  <>
                    <Button aria-label={`Yes, remove ${member.person}`} onClick={() => remove.mutate(member.person)}>
                      Yes, remove
                    </Button>
                    <Button look="text" onClick={() => ask("")}>
                      Keep
                    </Button>
                  </>
                ) : (
                  <>
                    {member.person !== session?.person && (
                      <Button
                        look="text"
                        aria-label={`A new password for ${member.person}`}
                        onClick={() => renew.mutate(member.person)}
                      >
                        Forgot the password
                      </Button>
                    )}
                    <Button look="text" aria-label={`Remove ${member.person}`} onClick={() => ask(member.person)}>
                      Remove
                    </Button>
                  </>
                )}
              </span>
            ) : (
              <span>{member.role}</span>
            )}
          </li>
        ))}
      </ul>
      <p role="alert" className="min-h-6 text-[0.875rem] text-stop">
        {refused?.message}
      </p>
      {renew.data && (
        <GivenLink
          token={renew.data.token}
          words={`Give this to ${renew.variables}, who chooses a new password with it; it opens once, until ${day(renew.data.expires_at)}`}
        />
      )}
      {owner && <Invite shopId={shopId} />}
      {owner && <Tablets shopId={shopId} />}
      {owner && <Deeds shopId={shopId} />}
      <MyShortNumber />
      <NewPassword />
    </main>
  );
}

function Invite({ shopId }: { shopId: string }) {
  const [role, setRole] = useState<Role>("laminator");
  const { day } = useShop();
  const queries = useQueryClient();
  const make = useMutation({
    mutationFn: () =>
      taken(client.POST("/api/shops/{shop_id}/invitations", { params: { path: { shop_id: shopId } }, body: { role } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["invitations", shopId] }),
  });
  return (
    <section className="mt-4">
      <h2 className="text-[1.1875rem] font-semibold">Invite</h2>
      <div className="mt-2 flex flex-wrap items-end gap-3">
        <Choice label="As" value={role} options={roles} onChange={setRole} />
        <Button onClick={() => make.mutate()}>Make a link</Button>
      </div>
      {make.data && (
        <GivenLink
          token={make.data.token}
          words={`Give this to one person; it opens once, until ${day(make.data.expires_at)}`}
        />
      )}
      {make.isError && <p className="text-[0.875rem] text-stop">{make.error.message}</p>}
      <OpenLinks shopId={shopId} />
    </section>
  );
}

function GivenLink({ token, words }: { token: string; words: string }) {
  const id = useId();
  return (
    <p className="mt-3">
      <label className="lab" htmlFor={id}>
        {words}
      </label>
      <input
        id={id}
        readOnly
        value={`${window.location.origin}/join/${token}`}
        onFocus={(event) => event.target.select()}
        className="field w-full"
      />
    </p>
  );
}

/** The links that still let somebody in, each to be taken back. */
function OpenLinks({ shopId }: { shopId: string }) {
  const { day } = useShop();
  const queries = useQueryClient();
  const key = ["invitations", shopId];
  const links = useQuery({
    queryKey: key,
    queryFn: () => taken(client.GET("/api/shops/{shop_id}/invitations", { params: { path: { shop_id: shopId } } })),
  });
  const withdraw = useMutation({
    mutationFn: (invitation_id: number) =>
      taken(
        client.DELETE("/api/shops/{shop_id}/invitations/{invitation_id}", {
          params: { path: { shop_id: shopId, invitation_id } },
        }),
      ),
    onSuccess: (left) => queries.setQueryData(key, left),
    onError: () => queries.invalidateQueries({ queryKey: key }),
  });
  if (!links.data?.length) return null;
  return (
    <>
      <h3 className="mt-4 text-[1rem] font-semibold">Links that still let somebody in</h3>
      <ul aria-label="Open links" className="mt-1 border-t border-rule">
        {links.data.map(({ id, role, renews, made_by, expires_at }) => (
          <li key={id} className="flex flex-wrap items-center justify-between gap-3 border-b border-rule py-1.5">
            <span>
              {renews ? `A new password for ${renews}` : `As ${role}`}, until {day(expires_at)}, made by {made_by}
            </span>
            <Button look="text" onClick={() => withdraw.mutate(id)}>
              Take it back
            </Button>
          </li>
        ))}
      </ul>
      {withdraw.isError && <p className="text-[0.875rem] text-stop">{withdraw.error.message}</p>}
    </>
  );
}

function NewPassword() {
  const [old, setOld] = useState("");
  const [fresh, setFresh] = useState("");
  const id = useId();
  const change = useMutation({
    mutationFn: () => taken(client.POST("/api/session/password", { body: { old, new: fresh } })),
    onSuccess: () => {
      setOld("");
      setFresh("");
    },
  });
  function submit(event: FormEvent) {
    event.preventDefault();
    change.mutate();
  }
  const box = "field mt-1 w-full";
  return (
    <section className="mt-8 border-t border-rule pt-5">
      <h2 className="text-[1.1875rem] font-semibold">Your password</h2>
      <form onSubmit={submit} className="mt-2 grid items-end gap-3 sm:grid-cols-[1fr_1fr_auto]">
        <label className="lab" htmlFor={`${id}-old`}>
          The one you have
          <input
            id={`${id}-old`}
            type="password"
            autoComplete="current-password"
            value={old}
            onChange={(event) => setOld(event.target.value)}
            className={box}
          />
        </label>
        <label className="lab" htmlFor={`${id}-new`}>
          The new one
          <input
            id={`${id}-new`}
            type="password"
            autoComplete="new-password"
            value={fresh}
            onChange={(event) => setFresh(event.target.value)}
            className={box}
          />
        </label>
        <Button type="submit" className="min-h-11">
          Change
        </Button>
      </form>
      <p role="status" className={`mt-1 min-h-6 text-[0.875rem] ${change.isError ? "text-stop" : "text-cool"}`}>
        {change.isError ? change.error.message : change.isSuccess ? "changed; your other sessions have ended" : ""}
      </p>
    </section>
  );
}
