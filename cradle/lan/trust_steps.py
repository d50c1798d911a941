"""How each common kind of tablet or computer is told to trust the shop's authority: four pictures each.

Written from memory of their settings; names of menus differ a little from year to year.
"""

from collections.abc import Sequence
from dataclasses import dataclass

from django.utils.html import format_html, format_html_join
from django.utils.safestring import SafeString


@dataclass(frozen=True)
class Step:
    """One picture: the head of a screen, its rows, which of them is pressed, and what to do in words."""

    head: str
    rows: tuple[str, ...]
    pressed: int
    words: str
    switched: bool = False


@dataclass(frozen=True)
class Kind:
    """One kind of device: what it is told by, what browsers of it say of themselves, and its four steps."""

    key: str
    told_by: str
    agents: tuple[str, ...]
    steps: tuple[Step, Step, Step, Step]


_GET = "Press “Get the certificate” on this page"
_FILE = "authority.crt"

KINDS: tuple[Kind, ...] = (
    Kind(
        "general",
        "A tablet or phone whose settings have “General” and “About”",
        ("iphone", "ipad"),
        (
            Step("This page", ("Get the certificate", "Allow", "Ignore"), 1, f"{_GET}, and allow the download."),
            Step(
                "Settings",
                ("Profile downloaded", "Wireless", "General"),
                0,
                "Open Settings. Near the top stands “Profile downloaded”: press it, then Install.",
            ),
            Step(
                "About",
                ("Name", "Software", "Certificate trust settings"),
                2,
                "In Settings open General, then About. At the very bottom: “Certificate trust settings”.",
            ),
            Step("Certificate trust", ("{name}",), 0, "Switch on this name. Nothing else.", switched=True),
        ),
    ),
    Kind(
        "security",
        "A tablet or phone whose settings have “Security and privacy”",
        ("android",),
        (
            Step("This page", ("Get the certificate", "Download"), 1, f"{_GET}, and let it download."),
            Step(
                "Settings",
                ("Display", "Security and privacy", "Search: certificate"),
                2,
                "Open Settings and search for “certificate”. It is under security, more settings.",
            ),
            Step(
                "Install a certificate",
                ("CA certificate", "User certificate", "Wireless certificate"),
                0,
                "Press “CA certificate”, then “Install anyway”. The tablet warns: this one is yours.",
            ),
            Step("Downloads", (_FILE,), 0, f"Choose {_FILE}. The tablet asks for its own code once."),
        ),
    ),
    Kind(
        "start",
        "A computer with a Start button",
        ("windows",),
        (
            Step("Downloads", (_FILE, "Open"), 1, f"{_GET}, then open {_FILE}."),
            Step("Certificate", ("General", "Install certificate…", "OK"), 1, "Press “Install certificate…”."),
            Step(
                "Place it in this store",
                ("Personal", "Trusted root certification authorities", "Others"),
                1,
                "Take “Place all certificates in the following store”, and choose the trusted roots.",
            ),
            Step("Security warning", ("{name}", "Yes", "No"), 1, "Press Yes. Close the browser, and open it again."),
        ),
    ),
    Kind(
        "keychain",
        "A computer with a keychain",
        ("macintosh",),
        (
            Step("Downloads", (_FILE, "Open"), 1, f"{_GET}, then open {_FILE}: the keychain opens."),
            Step("Add to keychain", ("login", "Add", "Cancel"), 1, "Choose “login”, and press Add."),
            Step("Certificates", ("{name}", "Others"), 0, "Press its name twice, then open “Trust”."),
            Step(
                "When using this certificate",
                ("Use system defaults", "Always trust", "Never trust"),
                1,
                "Choose “Always trust”, and close the window.",
            ),
        ),
    ),
    Kind(
        "browser",
        "A computer whose browser keeps certificates itself",
        (),
        (
            Step("Downloads", (_FILE,), 0, f"{_GET}."),
            Step(
                "Browser settings",
                ("Search: certificates", "Manage certificates"),
                1,
                "In the browser's settings search for “certificates”, and open “Manage certificates”.",
            ),
            Step("Authorities", ("Import…", "Others"), 0, f"Under “Authorities” press Import, and choose {_FILE}."),
            Step(
                "Trust it for",
                ("Websites", "Mail"),
                0,
                "Tick that it may identify websites. Nothing else.",
                switched=True,
            ),
        ),
    ),
)


def kind_of(agent: str, chosen: str = "") -> Kind:
    """The kind that was chosen, else the one a browser says it is on."""
    said = agent.lower()
    by_agent = (kind for kind in KINDS if any(each in said for each in kind.agents))
    return next((kind for kind in KINDS if kind.key == chosen), None) or next(by_agent, KINDS[-1])


_WIDE, _HIGH, _ROW = 260, 220, 44


def picture(step: Step, name: str) -> SafeString:
    """A screen with its rows, drawn; a ring is round the one that is pressed."""
    rows = [row.format(name=name) for row in step.rows]
    top = 52
    lines = format_html_join(
        "",
        '<rect x="10" y="{}" width="{}" height="{}" class="row"/><text x="20" y="{}" class="words">{}</text>',
        (
            (top + at * (_ROW + 6), _WIDE - 20, _ROW, top + at * (_ROW + 6) + 27, line)
            for at, line in enumerate(_cut(rows))
        ),
    )
    y = top + step.pressed * (_ROW + 6)
    switch = (
        format_html(
            '<rect x="{}" y="{}" width="34" height="18" rx="9" class="on"/><circle cx="{}" cy="{}" r="7" class="knob"/>',
            _WIDE - 54,
            y + 13,
            _WIDE - 29,
            y + 22,
        )
        if step.switched
        else ""
    )
    ring = format_html('<rect x="6" y="{}" width="{}" height="{}" rx="8" class="ring"/>', y - 4, _WIDE - 12, _ROW + 8)
    return format_html(
        '<svg viewBox="0 0 {} {}" role="img" aria-label="{}"><rect x="1" y="1" width="{}" height="{}" rx="14" class="screen"/>'
        '<text x="20" y="34" class="head">{}</text>{}{}{}</svg>',
        _WIDE,
        _HIGH,
        f"{step.head}: {rows[step.pressed]}",
        _WIDE - 2,
        _HIGH - 2,
        step.head,
        lines,
        switch,
        ring,
    )


def _cut(rows: Sequence[str]) -> list[str]:
    return [row if len(row) < 30 else f"{row[:28]}…" for row in rows]
