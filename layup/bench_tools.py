"""Which tools of the shelf measure at the bench, and what a plan needs to know of each."""

from typing import Annotated, Literal

from pydantic import Field

from layup.document import Document
from layup.equipment import CUP_ML, MASS_UNITS, Tool, ToolKind, Vessel
from layup.errors import Missing, OutOfRange
from layup.marks import VolumeTool
from layup.shelf import Library
from layup.units import convert

_Id = Annotated[str, Field(max_length=60)]


class BenchTools(Document):
    """The ids of what measures: each a tool or a vessel of the shelf, or one of the generic ones; nothing where there is none."""

    scale_id: _Id = "scale-1"
    syringe_id: _Id = "syringe-10"
    dropper_id: _Id = ""
    cup_id: _Id = "measuring-cup-100"
    mixing_id: _Id = "mixing-cup-1500"
    pump_a_id: _Id = "pump-20"
    pump_b_id: _Id = "pump-10"
    by_volume: Literal["cup", "pumps"] = "cup"


def measured_with(tools: BenchTools, library: Library) -> dict[str, object]:
    """What shop facts say of the tools that were chosen. Raises Missing or OutOfRange at the choice that cannot be.

    >>> from layup.library import generic
    >>> found = measured_with(BenchTools(scale_id="scale-oz"), generic())
    >>> round(found["scale_step_g"], 3), found["scale_unit"], found["cup_step_ml"]
    (1.417, 'oz', 2.0)
    """
    scale = _tool(tools.scale_id, "scale_id", "scale", library)
    syringe = _tool(tools.syringe_id, "syringe_id", "syringe", library)
    cup = _cup(tools.cup_id, library)
    mixing, empty_g = _mixing(tools.mixing_id, library)
    found: dict[str, object] = {
        "scale_step_g": _core(scale, "scale_id", 0.001, 50),
        "scale_unit": scale.unit,
        "syringe_step_ml": _core(syringe, "syringe_id", 0.001, 30),
        "syringe_unit": syringe.unit,
        "syringe_ml": syringe.most and convert(syringe.most, syringe.unit, "ml"),
        "cup_g": empty_g,
        "cup_ml": mixing.holds_ml,
        "cup_mm": mixing.width_mm,
        "cup_made_of": mixing.made_of,
        "cup_step_ml": cup.marked_every_ml,
        "cup_number_ml": cup.marked_every_ml,
        "cup_unit": cup.marks_in,
        "cup_ratio": cup.columns_for,
        "volume_tool": _volume_tool(tools, cup),
        "drops_per_ml": None,
    }
    if tools.dropper_id:
        found["drops_per_ml"] = _tool(tools.dropper_id, "dropper_id", "dropper", library).drops_per_ml
    for at in ("a", "b"):
        pump = _tool(getattr(tools, f"pump_{at}_id"), f"pump_{at}_id", "pump", library)
        found[f"pump_{at}_ml"] = _core(pump, f"pump_{at}_id", 0.1, 500)
    return found


def _tool(tool_id: str, at: str, kind: ToolKind, library: Library) -> Tool:
    found = next((tool for tool in library.tools if tool.id == tool_id and tool.kind == kind), None)
    if found is None:
        raise Missing(f"choose a {kind} of your shelf", f"tools.{at}")
    return found


def _cup(vessel_id: str, library: Library) -> Vessel:
    found = next((vessel for vessel in library.vessels if vessel.id == vessel_id and vessel.marked_every_ml), None)
    if found is None:
        raise Missing("choose a cup of your shelf that has marks", "tools.cup_id")
    return found


def _mixing(vessel_id: str, library: Library) -> tuple[Vessel, float]:
    """The usual mixing cup, and what it weighs empty: a scale that was not set to zero shows that too."""
    found = next((vessel for vessel in library.vessels if vessel.id == vessel_id), None)
    if found is None or found.weighs_g is None:
        raise Missing("choose a cup of your shelf whose empty weight is written there", "tools.mixing_id")
    least, most = CUP_ML
    if not least <= found.holds_ml <= most:
        raise OutOfRange(
            f"{found.name} is too {'small' if found.holds_ml < least else 'large'} to mix in", "tools.mixing_id"
        )
    return found, found.weighs_g


def _volume_tool(tools: BenchTools, cup: Vessel) -> VolumeTool:
    if tools.by_volume == "pumps":
        return "pumps"
    return "numbered cup" if cup.columns_for else "marked cup"


def _core(tool: Tool, at: str, least: float, most: float) -> float:
    """What a tool reads to, g or ml."""
    step = convert(tool.reads_to, tool.unit, "g" if tool.unit in MASS_UNITS else "ml")
    if not least <= step <= most:
        raise OutOfRange(
            f"{tool.name} reads to {tool.reads_to:g} {tool.unit}: too {'coarse' if step > most else 'fine'} for a pot; "
            "look at it on the shelf",
            f"tools.{at}",
        )
    return step
