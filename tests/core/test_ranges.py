"""What a builder could mean by a number: taken at both ends of its range, refused past them in words with the range.

Of `layup.document`, `layup.equipment`, `layup.heat.pot_lab`, `layup.job`, `layup.materials`,
`layup.shop_facts`. The ends are memory: wider than anything that is sold or laid, narrower than what no sum can be done
with.
"""

from unittest import TestCase

from pydantic import TypeAdapter, ValidationError

from layup.castings import Insert, Pour, Reading
from layup.equipment import Consumable, Tool, Vessel
from layup.errors import problems_of
from layup.heat.pot_lab import PotTrial
from layup.job import (
    Angle,
    Coat,
    Conditions,
    CutWishes,
    Ground,
    JobSpec,
    Joint,
    Part,
    Ply,
    PlyStrips,
    PotWishes,
    ResinInUse,
    TabStrip,
)
from layup.materials import Catalyst, Fabric, Filler, Hardener, ResinSystem, StatedTime, UsualCoat
from layup.shop_facts import ForecastHour, LoggedGel, RoomDay, ShopFacts, StirredFiller

ROOM = (-20, 50)
CUP_G, CUP_ML, CUP_MM = (0, 5000), (5, 50_000), (20, 600)
DENSITY, PRICE, COUNT = (0.02, 25), (0.0001, 1_000_000), (0.001, 1_000_000)
MINUTES, GRAMS, DEGREES, DOSE = (0.05, 20_000), (1, 100_000), (-40, 200), (0.01, 20)

RANGES = {
    PlyStrips: {"width_m": (0.001, 100), "layers": (1, 20), "overlap": (0, 0.95)},
    Coat: {
        "resin_gsm": (10, 5000),
        "count": (1, 30),
        "wet_um": (5, 10_000),
        "dry_um": (5, 10_000),
        "solids_pct": (1, 100),
        "covers_m2_per_l": (0.05, 100),
    },
    Pour: {
        "count": (1, 200),
        "length_m": (0.001, 100),
        "width_mm": (1, 20_000),
        "depth_mm": (1, 1000),
        "end_depth_mm": (1, 1000),
        "diameter_mm": (1, 20_000),
        "filled_share": (0.01, 2),
        "held_back": (0, 0.5),
        "form_mm": (1, 300),
        "most_peak_c": (30, 120),
        "lift_mm": (1, 1000),
    },
    Reading: {"at_m": (0, 100), "width_mm": (0, 20_000), "depth_mm": (0, 1000)},
    Insert: {"count": (1, 1000), "length_mm": (1, 20_000), "depth_mm": (1, 1000)},
    Ply: {"extra_mm": (0, 2000), "fibre_weight_fraction": (0.1, 0.8)},
    Ground: {"moisture_pct": (0, 100), "age_days": (0, 36_500)},
    Part: {"developed_area_factor": (1, 4), "margin_mm": (0, 2000), "count": (1, 200)},
    TabStrip: {"width_mm": (1, 2000)},
    Joint: {
        "count": (1, 200),
        "length_m": (0.001, 100),
        "radius_mm": (0.1, 200),
        "angle_deg": (0, 180),
        "panel_thickness_mm": (0.1, 200),
        "face_mm": (0.01, 1000),
        "sides": (1, 2),
        "width_mm": (0.01, 1000),
        "depth_mm": (0.01, 1000),
        "glue_mm": (0.01, 20),
        "squeeze_out": (0, 1),
        "slope": (1, 40),
        "hole_count": (1, 10_000),
        "diameter_mm": (0.1, 200),
        "second_share": (0.05, 0.95),
        "own_parts": (0.05, 20),
        "wished_pots": (1, 200),
        "tab_piece_m": (0.001, 100),
        "tab_overlap": (0, 0.9),
    },
    ResinInUse: {
        "blend_share": (0.05, 0.95),
        "wanted_gel_min": (3, 240),
        "catalyst_pct": (0.01, 10),
        "deadline_h": (0.1, 336),
    },
    PotWishes: {"hands": (1, 8), "largest_g": (30, 20_000), "share": (0.1, 0.95)}
    | {"cup_g": CUP_G, "cup_ml": CUP_ML, "cup_mm": CUP_MM},
    CutWishes: {"sheet_overlap_mm": (0, 500)},
    Conditions: {"room_c": ROOM, "surface_c": ROOM, "humidity_pct": (1, 100)},
    RoomDay: {"coldest_c": ROOM, "warmest_c": ROOM},
    ForecastHour: {"room_c": ROOM, "humidity_pct": (1, 100)},
    LoggedGel: {"minutes": MINUTES, "temperature_c": ROOM, "mass_g": GRAMS, "catalyst_pct": DOSE},
    StirredFiller: {"parts": (0.001, 100)},
    ShopFacts: {
        "room_shift_c": (-60, 60),
        "scale_step_g": (0.001, 50),
        "cup_step_ml": (0.01, 1000),
        "syringe_step_ml": (0.001, 30),
        "syringe_ml": (0.1, 1000),
        "drops_per_ml": (5, 100),
        "cup_number_ml": (0.1, 1000),
        "pump_a_ml": (0.1, 500),
        "pump_b_ml": (0.1, 500),
        "residue_ml": (0, 20),
        "scoop_ml": (1, 5000),
    }
    | {"cup_g": CUP_G, "cup_ml": CUP_ML, "cup_mm": CUP_MM},
    Fabric: {
        "areal_weight_gsm": (15, 2500),
        "resin_taken_gsm": (0, 3000),
        "roll_width_mm": (10, 20_000),
        "tightest_radius_mm": (0.1, 2000),
        "roll_length_m": (0.1, 10_000),
        "price_per_m2": PRICE,
    },
    UsualCoat: {"resin_gsm": (1, 5000)},
    StatedTime: {"minutes": MINUTES, "temperature_c": (-20, 200), "mass_g": GRAMS, "catalyst_pct": DOSE},
    Hardener: {
        "density_g_per_cm3": DENSITY,
        "band_low_f": (-40, 300),
        "band_high_f": (-40, 300),
        "pot_life_min": MINUTES,
        "pot_life_mass_g": GRAMS,
        "pot_life_temperature_c": DEGREES,
        "price_per_kg": PRICE,
    },
    Catalyst: {
        "density_g_per_cm3": DENSITY,
        "least_pct": DOSE,
        "most_pct": DOSE,
        "stated_pct": DOSE,
        "stated_temperature_c": DEGREES,
        "stated_gel_min": MINUTES,
        "exponent_n": (0.2, 4),
    },
    ResinSystem: {
        "density_g_per_cm3": DENSITY,
        "cured_density_g_per_cm3": DENSITY,
        "ratio_volume_b_per_a": (0.005, 20),
        "ratio_weight_b_per_a": (0.005, 20),
        "ratio_tolerance_pct": (0.1, 50),
        "minimum_c": DEGREES,
        "comfort_minimum_c": DEGREES,
        "maximum_c": DEGREES,
        "shelf_life_months": (0.1, 1200),
        "deepest_pour_mm": (0.1, 20_000),
    },
    Filler: {
        "bulk_density_g_per_l": (1, 10_000),
        "true_density_g_per_cm3": DENSITY,
        "parts_runs": (0.01, 50),
        "helper_parts": (0.01, 50),
    },
    Vessel: {"holds_ml": (1, 1_000_000), "width_mm": (20, 600), "weighs_g": CUP_G, "marked_every_ml": (0.01, 10_000)}
    | {"sold_by": COUNT, "price_each": PRICE},
    Tool: {"reads_to": (0.0001, 10_000), "most": COUNT, "drops_per_ml": (5, 100)},
    Consumable: {"each_covers_m2": COUNT, "each_lasts_min": COUNT, "sold_by": COUNT, "price_each": PRICE},
    PotTrial: {
        "mass_g": (10, 6000),
        "room_c": (0, 45),
        "cup_mm": CUP_MM,
        "tray_m2": (0.005, 1),
        "pack_c": (5, 40),
        "spread_mm": (0.1, 10),
        "start_c": (0, 45),
        "poured_out_min": (0.5, 600),
    },
}


def past(least: float, most: float) -> tuple[float, float]:
    """The nearest that nobody could mean, on either side: a whole number where the ends are, or a thousandth off."""
    if isinstance(least, int) and isinstance(most, int):
        return least - 1, most + 1
    return least - abs(least) / 1000 - 1e-9, most * 1.001


# What stands in a field until someone types another (memory).
DEFAULTS = {
    Joint: {"count": 1, "angle_deg": 90, "panel_thickness_mm": 6, "sides": 1, "second_share": 0.5},
    Part: {"developed_area_factor": 1, "margin_mm": 0, "count": 1},
    ResinInUse: {"blend_share": 0.5},
    PotWishes: {"hands": 1, "largest_g": None, "share": None},
    CutWishes: {"sheet_overlap_mm": 50},
    ResinSystem: {"ratio_tolerance_pct": 5},
    ShopFacts: {"opens_h": 8, "closes_h": 18, "scale_step_g": 1, "cup_step_ml": 2, "syringe_step_ml": 0.2}
    | {"cup_number_ml": 30, "pump_a_ml": 20, "pump_b_ml": 10, "scoop_ml": 250, "cup_g": 20, "cup_ml": 1500},
}


class Ranges(TestCase):
    def test_both_ends_are_taken_and_what_lies_past_them_is_refused(self):
        for model, fields in RANGES.items():
            for name, (least, most) in fields.items():
                typed = TypeAdapter(model.model_fields[name].rebuild_annotation())
                with self.subTest(model=model.__name__, field=name):
                    for end in (least, most):
                        self.assertEqual(typed.validate_python(end), end)
                    for outside, words in zip(
                        past(least, most), (f"{least:g} or more", f"{most:g} or less"), strict=True
                    ):
                        with self.assertRaises(ValidationError, msg=str(outside)) as refused:
                            typed.validate_python(outside)
                        self.assertEqual(problems_of(refused.exception), [("", f"must be {words}")])

    def test_an_angle_is_in_degrees_to_a_right_angle_either_way(self):
        angle = TypeAdapter(Angle)
        for typed, read in (("45", "45"), ("0/90", "0/90"), ("-90", "-90"), ("±45", "45"), ("30°", "30"), ("", "")):
            self.assertEqual(angle.validate_python(typed), read)
        for typed in ("91", "-91", "0/91", "north", "45/"):
            with self.subTest(typed=typed), self.assertRaisesRegex(ValidationError, "from −90 to 90"):
                angle.validate_python(typed)

    def test_what_stands_in_a_field_that_nobody_filled_in(self):
        for model, fields in DEFAULTS.items():
            for name, value in fields.items():
                with self.subTest(model=model.__name__, field=name):
                    self.assertEqual(model.model_fields[name].get_default(call_default_factory=True), value)

    def test_no_number_of_a_job_a_product_or_a_tool_is_without_ends(self):
        """A number without an end is how one request asks for all the memory there is."""
        open_ended = []
        for model in (JobSpec, *RANGES):
            schema = model.model_json_schema()
            for holder in (schema, *schema.get("$defs", {}).values()):
                for name, field in holder.get("properties", {}).items():
                    for kind in (field, *field.get("anyOf", ())):
                        ends = {key.removeprefix("exclusive").lower() for key in kind if "imum" in key}
                        a_number = kind.get("type") in ("number", "integer") and "const" not in kind
                        if a_number and ends != {"minimum", "maximum"}:
                            open_ended.append(f"{holder.get('title')}.{name}")
        self.assertEqual(open_ended, [])
