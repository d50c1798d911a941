"""What is built into the wheel: what it needs is what `requirements.txt` pins."""

from pathlib import Path

from hatchling.metadata.plugin.interface import MetadataHookInterface


class Pins(MetadataHookInterface):
    """The lock file as what the wheel depends on, its digests left out."""

    def update(self, metadata: dict) -> None:
        lines = Path(self.root, "requirements.txt").read_text().splitlines()
        metadata["dependencies"] = [line.rstrip(" \\") for line in lines if "==" in line]
