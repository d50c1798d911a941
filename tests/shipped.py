"""What ships with the program, with its licence, in `cradle/guide/shipped.json`: `make shipped`, after a change of a lock file."""

import json
import re
from importlib.metadata import Distribution, distribution
from pathlib import Path

ROOT = Path(__file__).parents[1]
# Tools for building, of which a part is built in: what keeps the pages on a device.
_BUILT_IN = {f"node_modules/workbox-{part}" for part in ("core", "precaching", "routing", "strategies", "window")}
FILE = ROOT / "cradle" / "guide" / "shipped.json"


def pinned() -> dict[str, str]:
    """What the server's lock file pins here, with its version."""
    found = {}
    for line in (ROOT / "requirements.txt").read_text().splitlines():
        name, _, rest = line.partition("==")
        if rest and name in found:
            # Two pins of one thing: what is installed here is told.
            found[name] = distribution(name).version
        elif rest:
            found[name] = re.match(r"[\w.]+", rest).group()
    return found


def bundled() -> dict[str, str]:
    """What the page is built of, with all that it needs in turn: folder in the lock file, and version."""
    lock = json.loads((ROOT / "web" / "package-lock.json").read_text())["packages"]
    return {
        folder: told["version"]
        for folder, told in lock.items()
        if folder in _BUILT_IN
        or (folder and not told.get("dev") and not told.get("devOptional") and not told.get("optional"))
    }


def _licence(of: Distribution) -> str:
    told = of.metadata
    by_class = [each.split(" :: ")[-1] for each in told.get_all("Classifier") or [] if each.startswith("License ::")]
    whole = (told["License"] or "").strip()
    return told["License-Expression"] or (whole if 0 < len(whole) < 60 else "") or "; ".join(by_class)


def _words(folder: Path) -> str:
    files = sorted(file for file in folder.iterdir() if re.match(r"(licen[cs]e|ofl)\b", file.name, re.IGNORECASE))
    return files[0].read_text(encoding="utf-8", errors="replace").strip() if files else ""


def shipped() -> list[dict[str, str]]:
    """All of it, in the order of the alphabet."""
    server = [
        {"name": name, "version": version, "licence": _licence(distribution(name)), "runs": "server", "words": ""}
        for name, version in pinned().items()
    ]
    page = []
    for folder, version in bundled().items():
        told = json.loads((ROOT / "web" / folder / "package.json").read_text())
        words = _words(ROOT / "web" / folder)
        page.append(
            {
                "name": told["name"],
                "version": version,
                "licence": told.get("license", ""),
                "runs": "page",
                "words": words,
            }
        )
    return sorted(server, key=lambda each: each["name"].lower()) + sorted(page, key=lambda each: each["name"].lower())


if __name__ == "__main__":
    FILE.write_text(json.dumps(shipped(), indent=1, ensure_ascii=False) + "\n", encoding="utf-8")
