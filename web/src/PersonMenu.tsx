import { useNavigate } from "react-router";
import type { Preferences } from "./api/client";
import { useSession } from "./session";
import { Menu, MenuChoice, MenuItem, MenuRule } from "./ui/Menu";

export const unitSets = [
  ["metric", "g °C"],
  ["US", "oz °F"],
  ["as typed", "as typed"],
] as const;
const inFull = [
  ["metric", "metric"],
  ["US", "US"],
  ["as typed", "as typed"],
] as const;
const looks = [
  ["as the device", "as the device"],
  ["light", "light"],
  ["night", "night"],
] as const;

/** What belongs to the person at the screen: units, look, keys, the shop, the way out. */
export function PersonMenu({ onKeys }: { onKeys: () => void }) {
  const { session, preferences, prefer, signOut } = useSession();
  const go = useNavigate();
  const name = session?.person ?? "";
  return (
    <Menu label={`${name}: units, look, keys`} face={name.slice(0, 1).toUpperCase()}>
      <MenuChoice
        label="Units"
        value={preferences.units}
        options={inFull}
        onChange={(units: Preferences["units"]) => prefer({ units })}
      />
      <MenuRule />
      <MenuChoice
        label="Look"
        value={preferences.look}
        options={looks}
        onChange={(look: Preferences["look"]) => prefer({ look })}
      />
      <MenuRule />
      <MenuItem onSelect={onKeys}>
        Keyboard shortcuts <span className="lab ml-auto pl-6">?</span>
      </MenuItem>
      <MenuItem onSelect={() => go("/guide")}>Guide</MenuItem>
      <MenuItem onSelect={() => go("/")}>The floor</MenuItem>
      {!session?.at_tablet && (
        <>
          <MenuItem onSelect={() => go("/shelf")}>Shelf</MenuItem>
          <MenuItem onSelect={() => go("/shop")}>Shop, units and tools</MenuItem>
          <MenuItem onSelect={() => go("/people")}>People</MenuItem>
          <MenuItem onSelect={() => go("/first")}>Before the first pot</MenuItem>
        </>
      )}
      <MenuRule />
      <MenuItem onSelect={() => void signOut()}>
        {session?.at_tablet ? "Somebody else works here" : `Sign out ${name}`}
      </MenuItem>
    </Menu>
  );
}
