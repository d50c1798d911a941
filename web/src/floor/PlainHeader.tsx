import { Link, NavLink, useNavigate } from "react-router";
import { useKeys } from "../keys";
import { PersonMenu, unitSets } from "../PersonMenu";
import { useSession } from "../session";
import { Choice } from "../ui/Choice";
import { Sign } from "../ui/Sign";

/** The places of the shop: where each is, what it is called, and whether a tablet of the bench shows it. */
const places = [
  ["/", "Floor", true],
  ["/week", "Week", false],
  ["/shelf", "Shelf", false],
  ["/taught", "Log", false],
  ["/practice", "Practice", true],
  ["/guide", "Guide", true],
] as const;

/** The head of every place that is not a job: the shop, its units, the person. */
export function PlainHeader() {
  const { session, shopId, chooseShop, preferences, prefer } = useSession();
  const go = useNavigate();
  const { list, panel } = useKeys([
    { keys: "g 0", words: "the floor", act: () => void go("/") },
    { keys: "g w", words: "the week", act: () => void go("/week") },
    { keys: "g s", words: "the shelf", act: () => void go("/shelf") },
    { keys: "g l", words: "what the log has taught", act: () => void go("/taught") },
    { keys: "g p", words: "practice", act: () => void go("/practice") },
    { keys: "g h", words: "the guide", act: () => void go("/guide") },
    { keys: "s", words: "search", act: () => void go("/search") },
    { keys: "p", words: "print", act: () => window.print() },
  ]);
  const shop = session?.shops.find((other) => other.id === shopId);
  return (
    <header className="flex min-h-14 flex-wrap items-center gap-x-4 border-b border-rule bg-sheet px-4 py-1">
      <Link to="/" className="flex items-center gap-3 hover:underline" title="The floor">
        <Sign />
        <span>
          <span className="lab block leading-tight">Inch Cradle</span>
          <span className="block font-semibold leading-tight">{shop?.name ?? "no shop"}</span>
        </span>
      </Link>
      <nav
        aria-label="Places"
        className="flex gap-4 text-[0.9062rem] max-sm:order-last max-sm:w-full max-sm:justify-between max-sm:gap-1"
      >
        {places
          .filter(([, , ofTheBench]) => ofTheBench || !session?.at_tablet)
          .map(([to, words]) => (
            <NavLink
              key={to}
              to={to}
              end={to === "/"}
              className="flex min-h-11 items-center hover:underline aria-[current]:font-semibold"
            >
              {words}
            </NavLink>
          ))}
      </nav>
      <div className="ml-auto flex flex-wrap items-center gap-3">
        {!session?.at_tablet && (
          <Link
            to="/search"
            title="Search (s)"
            aria-label="Search"
            className="grid size-11 place-items-center hover:bg-floor"
          >
            <svg
              viewBox="0 0 24 24"
              width="22"
              height="22"
              aria-hidden="true"
              fill="none"
              stroke="currentColor"
              strokeWidth="2.2"
            >
              <circle cx="10" cy="10" r="6.5" />
              <path d="M15 15l6 6" strokeLinecap="round" />
            </svg>
          </Link>
        )}
        {session && session.shops.length > 1 && (
          <Choice
            looks
            label="Shop"
            hideLabel
            small
            value={shopId}
            options={session.shops.map((other) => [other.id, other.name] as const)}
            onChange={chooseShop}
          />
        )}
        <div className="max-sm:hidden">
          <Choice
            looks
            label="Units"
            hideLabel
            small
            value={preferences.units}
            options={unitSets}
            onChange={(units) => prefer({ units })}
          />
        </div>
        <PersonMenu onKeys={list} />
      </div>
      {panel}
    </header>
  );
}
