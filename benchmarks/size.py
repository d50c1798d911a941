"""What an installed program weighs, and what each megabyte is for."""

from pathlib import Path

from tests.installed import program

_FOR = {
    "scipy": "the heat in a pot, roots, fits, splines",
    "numpy": "all arithmetic on rows of numbers",
    "django": "the server, its database and its safety (half of it words of other languages)",
    "babel": "numbers, days and money as each country writes them",
    "cryptography": "the shop's own certificates",
    "pillow": "photos made small, without their place",
    "PIL": "photos made small, without their place",
    "reportlab": "prints",
    "shapely": "parts with holes, for an infusion",
    "pydantic": "what is typed and sent is checked",
    "pydantic_core": "what is typed and sent is checked",
    "ninja": "the API",
    "brotli": "pages packed for the wireless",
    "_brotli": "pages packed for the wireless",
    "zeroconf": "the server's name on the network",
    "cradle": "this program: the server with its pages and the pictures of its guide",
    "layup": "this program: the core, and the letters of its prints",
}


def _bytes(place: Path) -> int:
    return sum(each.stat().st_size for each in place.rglob("*") if each.is_file()) or place.stat().st_size


def main() -> None:
    (packages,) = (program() / "bare").glob("lib/*/site-packages")
    sizes: dict[str, int] = {}
    for place in packages.iterdir():
        name = place.name.split("-")[0].split(".")[0]
        sizes[name] = sizes.get(name, 0) + _bytes(place)
    whole = sum(sizes.values())
    print(f"Installed: {whole / 1e6:.0f} MB (521 before)")
    told = 0
    for name, size in sorted(sizes.items(), key=lambda each: -each[1]):
        if name in _FOR:
            told += size
            print(f"  {size / 1e6:5.1f} MB  {name}: {_FOR[name]}")
    print(f"  {(whole - told) / 1e6:5.1f} MB  {len(sizes)} small ones in all")


if __name__ == "__main__":
    main()
