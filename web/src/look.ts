import type { Preferences } from "./api/client";

type Look = Preferences["look"];
const PLACE = "inch-cradle.look";
const dark = window.matchMedia("(prefers-color-scheme: dark)");

function put(look: Look): void {
  const night = look === "night" || (look === "as the device" && dark.matches);
  document.documentElement.dataset.look = night ? "night" : "light";
}

/** Wears a look, follows the device where it is to, and remembers it for the next visit's first moment. */
export function wearLook(look: Look): () => void {
  localStorage.setItem(PLACE, look);
  put(look);
  const follow = () => put(look);
  dark.addEventListener("change", follow);
  return () => dark.removeEventListener("change", follow);
}

/** The look of the last visit, before anybody is known to be signed in. */
export function wearLastLook(): void {
  put((localStorage.getItem(PLACE) as Look | null) ?? "as the device");
}
