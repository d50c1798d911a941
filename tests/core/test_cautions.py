"""Each caution fires where it should, and not where it should not.

Of `layup.cautions.chapters`, `layup.cautions.conditions`, `layup.joints.cautions`, `layup.cautions.materials`, `layup.cautions.mixing`,
`layup.cautions.people`, `layup.cautions.preparation`, `layup.cautions.rule`, `layup.cautions.windows`,
`layup.joints.deep`, `layup.pours.cautions`, `layup.coats.cautions`, `layup.cautions.tins`.
"""

from datetime import date
from unittest import TestCase

from layup.cautions.chapters import rules
from layup.heat.conduction import H_TRAY, Body, Face, Layer, simulate
from layup.heat.cure_kinetics import SPECIFIC_HEAT_J_PER_G_K
from layup.heat.wet_limit import beneath, cure_of
from layup.job import Conditions, JobSpec, Override
from layup.joints.deep import peak_of_joint_c
from layup.plan import plan, settled
from layup.shop_facts import RoomDay, TinFact
from tests.core.jobs import at, cast, corner, filler, jointed, on, panel, slab, strips


def severities(job, facts) -> dict[str, str]:
    """The first severity of each caution by id: they come most severe first."""
    found: dict[str, str] = {}
    for caution in plan(job, facts).cautions:
        found.setdefault(caution.id, caution.severity)
    return found


def epoxy(**said):
    return panel("epoxy-2-1", "cloth-300", in_use={"resin_id": "epoxy-2-1"} | said)


def with_a_fillet():
    joint = {"id": "j", "length_m": 2, "radius_mm": 10, "filler_id": "wood-flour"}
    job = epoxy().model_dump(mode="json") | {"joints": [joint]}
    job["materials"]["fillers"] = [filler("wood-flour").model_dump(mode="json")]
    return JobSpec.model_validate(job)


SLOW = "epoxy-2-1-slow"


def stated_deepest(joint: dict, deepest_mm: float) -> JobSpec:
    """A joint in a resin whose sheet says how deep it may be poured."""
    document = jointed(joint).model_dump(mode="json")
    document["materials"]["resins"][0] |= {"deepest_pour_mm": deepest_mm}
    document["materials"]["resins"][0]["sources"] |= {"deepest_pour_mm": "data sheet"}
    return JobSpec.model_validate(document)


class Firing(TestCase):
    def expect(self, rule: str, fires, severity: str, facts=None, quiet=None, quiet_facts=None):
        self.seen.add(rule)
        self.assertEqual(severities(fires, facts or at(20)).get(rule), severity)
        self.assertNotIn(rule, severities(quiet or epoxy(), quiet_facts or at(20)))

    def tins(self):
        glass, polyester = epoxy(), panel("polyester-general", "csm-450")

        def standing(article: str, keeping: str, **said):
            return at(20, tins=(TinFact(article=article, called="The tin, lot 7", keeping=keeping, **said),))

        resin, medium = "resin epoxy-2-1", "hardener epoxy-2-1-medium"
        past = {"keeping": "past", "until": date(2026, 1, 31)}
        fresh = standing(resin, "good", until=date(2027, 1, 31))
        for article in (resin, medium):
            self.expect("tins.past_its_date", glass, "care", standing(article, **past), quiet_facts=fresh)
        right = standing(resin, **past, trial_holds=True)
        self.expect("tins.past_its_date", glass, "care", standing(resin, **past), quiet_facts=right)
        # What is not mixed is not asked for.
        other = standing("hardener epoxy-2-1-fast", **past)
        peroxide = f"catalyst {polyester.materials.resins[0].catalyst.name}"
        self.expect("tins.past_its_date", polyester, "care", standing(peroxide, **past), quiet_facts=other)
        self.expect("tins.no_date", glass, "care", standing(resin, "no date"), quiet_facts=fresh)
        sugar, cloud = (standing(medium, "good", conditions=(seen,)) for seen in ("crystallised", "clouded"))
        self.expect("tins.crystallised", glass, "care", sugar, quiet_facts=cloud)
        self.expect("tins.spoiled", glass, "care", cloud, quiet_facts=sugar)
        cold, cool = (standing(resin, "good", stored_c=stored_c) for stored_c in (15.0, 15.1))
        self.expect("tins.cold", glass, "note", cold, quiet_facts=cool)

    def test_every_rule_once(self):
        self.seen: set[str] = set()
        self.bags()
        self.tins()
        self.infusions()
        self.finishes()
        polyester = panel("polyester-general", "csm-450")
        mat = panel("epoxy-2-1", "csm-450")
        self.expect("materials.mat_binder_with_epoxy", mat, "stop", quiet=polyester)
        self.expect("conditions.under_minimum", polyester, "stop", at(4), polyester)
        unread, own = at(20, room_read=False), epoxy().model_copy(update={"conditions": Conditions(room_c=20)})
        self.expect("conditions.not_read", epoxy(), "stop", unread, quiet=own, quiet_facts=unread)
        self.expect("conditions.hardener_off_band", epoxy(hardener_id="epoxy-2-1-extra-slow"), "stop")
        self.expect("mixing.more_hardener_is_not_faster", epoxy(tin_ratio="100:50", tin_ratio_basis="weight"), "stop")
        damp, dry = at(20, humidity_pct=95), at(20, humidity_pct=50)
        self.expect("conditions.near_the_dew_point", epoxy(), "stop", damp, quiet_facts=dry)
        rising, steady = (
            at(18, day=RoomDay(coldest_c=12, warmest_c=26)),
            at(18, day=RoomDay(coldest_c=17, warmest_c=20)),
        )
        self.expect("conditions.warmer_later", epoxy(), "care", rising, quiet_facts=steady)
        hot_dose = {"resin_id": "polyester-general", "catalyst_pct": 3}
        self.expect("mixing.catalyst_outside_limits", panel("polyester-general", "csm-450", in_use=hot_dose), "stop")
        self.expect("people.peroxide_and_eyes", polyester, "care")
        slow = epoxy(hardener_id="epoxy-2-1-medium", blend_id="epoxy-2-1-slow", blend_share=0.3)
        self.expect("mixing.blend_wants_a_test_cup", slow, "note")
        self.expect("mixing.one_pot", panel("epoxy-2-1", "cloth-300", practice={"mixing": "one pot"}), "note")
        by_volume = panel("epoxy-2-1", "cloth-300", practice={"basis": "volume"})
        pumps = {"volume_tool": "pumps", "pump_a_ml": 30, "pump_b_ml": 10}
        right = at(20).model_copy(update=pumps | {"pump_b_ml": 15})
        wrong = at(20).model_copy(update=pumps)
        self.expect("mixing.pumps_off_ratio", by_volume, "stop", wrong, by_volume, right)
        hull, half = (
            on(panel("epoxy-2-1", "cloth-200", "biax-600", width_m=wide, length_m=6), bays={"bay_count": 1})
            for wide in (4, 2)
        )
        self.expect("windows.ply_longer_than_its_window", hull, "care", at(18), half, at(18))
        # 80 m² by one pair of hands, all at once.
        two = on(panel("epoxy-2-1", *["cloth-300"] * 2, width_m=8, length_m=10), bays={"bay_count": 1})
        self.expect("windows.missed", two, "care", at(30), quiet=panel("epoxy-2-1", "cloth-300", "cloth-300"))
        nights = {name: at(18, day=RoomDay(coldest_c=name, warmest_c=20)) for name in (2, 12)}
        noon = panel("epoxy-2-1", "cloth-300", pots={"start": "2026-05-04T12:00:00Z"})
        self.expect("conditions.cold_before_it_is_hard", noon, "care", nights[2], noon, nights[12])
        sanded = panel("epoxy-2-1", "cloth-300", "cloth-300", practice={"plies": "set and sanded"})
        self.expect("windows.set_between_plies", sanded, "note")
        self.expect("conditions.steep", on(epoxy(), orientation="overhead"), "note")
        self.expect("people.styrene_vapour", polyester, "care")
        # memory, of safety data sheets: styrene flashes at 31 °C.
        self.expect("people.styrene_vapour", polyester, "stop", at(31), quiet_facts=at(31))
        self.expect("people.styrene_vapour", polyester, "care", at(30.9))
        self.expect("people.fibre_dust", epoxy(), "note", quiet=panel("epoxy-2-1"))
        self.expect("people.fibre_dust", panel("epoxy-2-1", "carbon-200"), "care", quiet=panel("epoxy-2-1"))
        self.expect("people.waste", epoxy(), "note", quiet=panel("epoxy-2-1"))
        self.expect("people.filler_dust", with_a_fillet(), "note")
        self.expect("people.skin", epoxy(), "care", quiet=polyester)
        self.expect("people.runaway_pot", epoxy(), "care", quiet=panel("epoxy-2-1"))
        flame = {"bubbles": "flamed out"}
        torched = panel("polyester-general", "csm-450", practice=flame)
        self.expect("people.flame_near_styrene", torched, "stop", quiet=polyester)
        self.expect("people.flame_near_styrene", panel("epoxy-2-1", "cloth-300", practice=flame), "care")
        self.materials()
        self.joints()
        self.grounds()
        self.castings()
        self.coats()
        self.assertEqual(self.seen, {rule.id for rule in rules()})

    def coats(self):
        def coated(resin_id, *coats):
            job = panel(resin_id, "csm-450" if "polyester" in resin_id or "coat" in resin_id else "biax-450")
            more = [{"id": f"c{n}", "coat": {"resin_gsm": 600} | coat} for n, coat in enumerate(coats)]
            return on(job, plies=[*job.model_dump(mode="json")["parts"][0]["plies"], *more])

        last = {"kind": "top"}
        self.expect("coats.stays_sticky", coated("gel-coat", last), "care", quiet=coated("gel-coat-waxed", last))
        for thin, right in (
            ({"kind": "top", "resin_gsm": 200}, {"kind": "top"}),
            ({"kind": "top", "wet_um": 900}, {"kind": "top", "wet_um": 700}),
            ({"kind": "flood", "wet_um": 400}, {"kind": "flood", "wet_um": 955}),
            ({"kind": "barrier", "wet_um": 130}, {"kind": "barrier", "wet_um": 130, "dry_um": 300}),
            ({"kind": "barrier", "wet_um": 298}, {"kind": "barrier", "wet_um": 150, "dry_um": 300}),
        ):
            self.expect("coats.thickness", coated("epoxy-2-1", thin), "care", quiet=coated("epoxy-2-1", right))
        one, two = ({"kind": "surface", "resin_gsm": 350, "count": count} for count in (1, 2))
        self.expect("coats.one_surface_coat", coated("epoxy-2-1", one), "care", quiet=coated("epoxy-2-1", two))

    def castings(self):
        calm = cast(slab())
        deep = cast(slab(depth_mm=40, lift_mm=40))
        self.expect("pours.too_hot", deep, "stop", at(23), calm)
        self.expect("pours.too_hot", cast(slab(depth_mm=40, lift_mm=40, fan=True)), "care", quiet=calm)
        self.expect("pours.deeper_than_stated", deep, "care", quiet=cast(slab(depth_mm=40)))
        self.expect("pours.not_for_casting", cast(slab(depth_mm=10), resin_id="epoxy-2-1"), "care", quiet=calm)
        self.assertNotIn("pours.not_for_casting", severities(cast(slab(depth_mm=5), resin_id="epoxy-2-1"), at(20)))
        self.expect("pours.does_not_level", cast(slab(depth_mm=2)), "care", quiet=cast(slab(depth_mm=4)))
        self.expect("pours.cools_too_late", cast(slab(depth_mm=60)), "care", at(28), calm)
        self.expect("pours.open_grain", cast(slab(), practice={"sealing": "never"}), "care", quiet=calm)
        self.expect("pours.slow_seal", calm, "note", quiet=cast(slab(sealed=True)))
        foam = slab(lies_in="foam", lift_mm=20, most_peak_c=90)
        self.expect("pours.on_foam", cast(foam), "care", at(26), cast(foam | {"lies_in": "softwood"}), at(20))
        self.expect("pours.in_the_sun", cast(slab(in_the_sun=True)), "note", quiet=calm)

    def joints(self):
        quiet = jointed(corner(tabs=strips(100, 150)))
        light = corner(filler_id="glass-spheres")
        mixed = jointed(light | {"second_id": "silica"}, light | {"duty": "eases the corner"})
        self.expect("joints.filler_not_structural", jointed(light), "stop", quiet=mixed)
        stiff = jointed(corner(radius_mm=12, tabs=strips(100, fabric_id="combi-805")))
        self.expect("joints.fabric_too_stiff", stiff, "care", quiet=quiet)
        # The second strip turns tighter than the first: 8.2 mm less what lies beneath, where the fabric turns 8.
        twice = jointed(corner(radius_mm=8.2, tabs=strips(100, 150)))
        once = jointed(corner(radius_mm=8.2, tabs=strips(100)))
        self.expect("joints.fabric_too_stiff", twice, "care", quiet=once)
        self.expect("joints.edges_in_line", jointed(corner(tabs=strips(100, 104))), "care", quiet=quiet)
        cured = {"practice": {"tabbing": "cured and sanded"}}
        hard = jointed(corner(filler_id="silica", tabs=strips(100)), **cured)
        self.expect("joints.too_hard_to_sand", hard, "care", quiet=jointed(corner(tabs=strips(100)), **cured))
        self.expect("joints.crumbles", jointed(corner(own_parts=2.4)), "care", quiet=jointed(corner(own_parts=1.6)))
        line = {"kind": "glue line", "length_m": 2, "width_mm": 30, "filler_id": "silica"}
        gap = {"kind": "gap", "length_m": 1, "width_mm": 160, "filler_id": "silica"}
        deep, shallow = jointed(gap | {"depth_mm": 60}), jointed(gap | {"depth_mm": 3})
        self.expect("joints.too_deep_at_once", deep, "stop", quiet=shallow)
        middling = jointed(gap | {"depth_mm": 7}, in_use={"resin_id": "epoxy-2-1", "hardener_id": SLOW})
        self.expect("joints.too_deep_at_once", middling, "care", at(21))
        self.expect("joints.too_deep_at_once", stated_deepest(gap | {"depth_mm": 3}, 2), "care", quiet=shallow)
        self.expect("joints.starved", jointed(line | {"squeeze_out": 0.05}), "care", quiet=jointed(line))

    def materials(self):
        glass, carbon = epoxy(), panel("epoxy-2-1", "carbon-200", "cloth-300")
        polyester = panel("polyester-general", "csm-450")
        polystyrene = on(polyester, substrate="polystyrene foam")
        self.expect(
            "materials.styrene_on_polystyrene", polystyrene, "stop", quiet=on(glass, substrate="polystyrene foam")
        )
        self.expect(
            "materials.styrene_on_polystyrene", panel("polyester-general", "polystyrene-20"), "stop", quiet=polyester
        )
        self.expect("materials.styrene_over_epoxy", on(polyester, substrate="cured epoxy"), "stop", quiet=polyester)
        self.expect("materials.styrene_over_epoxy", on(glass, ground={"later": "gel coat"}), "stop")
        old = on(glass, substrate="cured polyester")
        self.expect("materials.epoxy_over_polyester", old, "care", quiet=on(polyester, substrate="cured polyester"))
        keyed = on(glass, substrate="cured polyester", ground={"washed_and_abraded": True})
        self.expect("materials.epoxy_over_polyester", keyed, "note")
        green = {"id": "g", "coat": {"kind": "gel", "resin_gsm": 600}}
        lid = on(panel("epoxy-2-1", "cloth-300"), plies=[green, {"id": "y0", "fabric_id": "cloth-300"}])
        self.expect("materials.epoxy_on_gel_coat", lid, "care", quiet=panel("epoxy-2-1", "cloth-300"))
        self.expect("materials.carbon_on_metal", on(carbon, substrate="aluminium"), "care", quiet=carbon)
        isolated = on(panel("epoxy-2-1", "cloth-300", "carbon-200"), substrate="aluminium")
        green = {"id": "g", "coat": {"kind": "gel", "resin_gsm": 600}}
        lid = on(panel("epoxy-2-1", "cloth-300"), plies=[green, {"id": "y0", "fabric_id": "cloth-300"}])
        self.expect("materials.epoxy_on_gel_coat", lid, "care", quiet=panel("epoxy-2-1", "cloth-300"))
        self.expect("materials.carbon_on_metal", on(carbon, ground={"afloat": True}), "care", quiet=isolated)
        sharp = on(glass, ground={"sharp_corner": True})
        fillet = {"id": "j", "length_m": 1, "radius_mm": 12, "filler_id": "flour"}
        eased = JobSpec.model_validate(sharp.model_dump() | {"joints": [fillet]})
        tight = JobSpec.model_validate(sharp.model_dump() | {"joints": [fillet | {"radius_mm": 2}]})
        self.expect("materials.sharp_corner", sharp, "care", quiet=eased)
        self.expect("materials.fabric_stiffer_than_fillet", tight, "care", quiet=eased)
        self.expect("materials.thin_mould", self.mould(2), "care", quiet=self.mould(4))
        self.expect("materials.plastic_fittings", on(glass, ground={"plastic_fittings": True}), "care")
        hole = {"kind": "patch", "width_m": 0.1, "length_m": 0.2, "depth_mm": 3, "step_mm": 15}
        stack = [{"id": f"q{n}", "fabric_id": "cloth-300"} for n in range(3)]
        wide, fitting = on(glass, shape=hole, plies=stack), on(glass, shape=hole, plies=stack[:2])
        self.expect("materials.patch_past_its_ground", wide, "care", quiet=fitting)
        deep, flush = (on(glass, shape=hole | {"depth_mm": mm}, plies=stack[:2]) for mm in (8, 0.8))
        self.expect("materials.patch_under_flush", deep, "care", quiet=flush)
        self.expect("materials.foam_rollers", polyester, "note")
        soft, waxed = at(20, cup_made_of="polystyrene"), at(20, cup_made_of="waxed paper")
        self.expect("materials.cup_and_resin", polyester, "stop", soft, quiet_facts=soft)
        self.expect("materials.epoxy_in_a_foam_cup", glass, "care", soft, quiet_facts=waxed)
        self.expect("materials.waxed_cup", glass, "care", waxed, quiet_facts=soft)
        peel_first = panel("epoxy-2-1", "peel-85", "cloth-300")
        peel_last = panel("epoxy-2-1", "cloth-300", "peel-85")
        self.expect("preparation.peel_ply_on_nothing_wet", peel_first, "care", quiet=peel_last)
        self.expect("preparation.comes_in_kinds", polyester, "note")
        unsealed = panel("epoxy-2-1", "cloth-300", practice={"sealing": "never"})
        concrete = on(unsealed, substrate="concrete")
        self.expect("preparation.unsealed", concrete, "care", quiet=on(glass, substrate="concrete"))
        clear = on(unsealed, substrate="timber", ground={"show_face": True})
        self.expect("preparation.unsealed", clear, "care", quiet=on(unsealed, substrate="timber"))
        waits = panel("epoxy-2-1", "cloth-300", practice={"cutting": "in the tack waits"})
        self.expect("preparation.cut_in_the_waits", waits, "note")
        self.expect("materials.not_scantlings", glass, "note", quiet=panel("epoxy-2-1"))

    def bags(self):
        def bagged(*stack: str, resin_id="epoxy-2-1", **said) -> JobSpec:
            return on(panel(resin_id, *stack, width_m=0.5, length_m=1), process="vacuum bag", bag=said)

        one = bagged("cloth-300")
        self.expect("bag.late", bagged("cloth-300", bagging_min=120), "stop", quiet=one)
        spare = plan(one, at(20)).bags[0].on_day[0].to_spare_min
        near = plan(one, at(20)).bags[0].bagging_min + spare - 4
        self.expect("bag.late", bagged("cloth-300", bagging_min=near), "care")
        leaking = {"drop_mbar": 30, "drop_min": 10}
        self.expect("bag.leaks", bagged("cloth-300", **leaking), "stop", quiet=bagged("cloth-300", drop_mbar=8))
        bare = bagged("cloth-300", peel_ply=False)
        self.expect("bag.no_peel_ply", bare, "care", quiet=bagged("cloth-300", "peel-85", peel_ply=False))
        dry = bagged("cloth-300", breather=False)
        self.expect("bag.no_breather", dry, "care", quiet=bagged("cloth-300", "breather-150", breather=False))
        self.expect("bag.bleeds_over", bagged(*["csm-450"] * 3), "care", quiet=bagged("csm-450"))
        styrene = {"resin_id": "polyester-general"}
        self.expect(
            "bag.boils", bagged("csm-450", **styrene, level=20), "stop", quiet=bagged("csm-450", **styrene, level=40)
        )
        self.expect("bag.crushes", on(one, substrate="foam core"), "note", quiet=one)

    def finishes(self):
        def finished(resin_id="epoxy-2-1", process="open mould", **said) -> JobSpec:
            return on(panel(resin_id, "cloth-300"), process=process, finish={"to": "clear, gloss"} | said)

        low = {"low_mm": (1.0,), "fairing": "polyester", "to": "under paint"}
        self.expect("finish.shrinks", finished(**low), "note", quiet=finished(**low | {"fairing": "epoxy"}))
        self.expect("finish.in_the_sun", finished(), "care", quiet=finished(to="under varnish", topped="varnish"))
        self.expect("finish.in_the_sun", finished(to="clear, matt"), "care", quiet=finished("polyester-general"))
        self.expect("finish.too_smooth", finished(topped="paint"), "care", quiet=finished(topped="wax"))
        knife = {"trim": "knife, while green"}
        bagged = finished("epoxy-infusion", process="infusion", **knife)
        self.expect("finish.no_green_stage", bagged, "note", quiet=finished(**knife))
        more = finished(low_mm=(1.0,), faired_m2=9)
        self.expect("finish.more_than_there_is", more, "care", quiet=finished(low_mm=(1.0,), faired_m2=1))

    def infusions(self):
        def infused(*stack: str, wide=0.5, resin_id="epoxy-infusion", **said) -> JobSpec:
            return on(panel(resin_id, *stack, width_m=wide, length_m=1), process="infusion", infusion=said)

        def port(name: str, does: str, x: float, y: float) -> dict:
            return {"id": name, "does": does, "points": [{"x_m": x, "y_m": y}]}

        good = infused("biax-450", "biax-450")
        slow = {"mesh": False, "viscosity_mpa_s": 900}
        self.expect("infusion.stays_dry", infused("biax-450", wide=0.9, **slow), "stop", quiet=good)
        margin = plan(infused("biax-450", **slow), at(20)).infusions[0].margin
        tight = infused("biax-450", mesh=False, viscosity_mpa_s=900 * margin / 1.2)
        self.expect("infusion.little_time", tight, "care", quiet=good)
        corner = [port("f", "feeds", 0, 0), port("v", "vents", 0.2, 0)]
        self.expect("infusion.ahead", infused("biax-450", lines=corner), "note", quiet=good)
        self.expect("infusion.shut_in", infused("biax-450", lines=corner), "care", quiet=good)
        thick = [{"id": f"m{n}", "fabric_id": "csm-450", "fibre_weight_fraction": 0.4} for n in range(6)]
        heavy = on(infused("csm-450", wide=2), plies=thick)
        self.expect("infusion.bucket_heats", heavy, "care", at(24), quiet=good)
        thin = infused("biax-450", "biax-450", hose_m=6, bore_mm=5)
        self.expect("infusion.hose_chokes", thin, "note", quiet=good)
        self.expect("infusion.mesh_to_the_edge", infused("biax-450", mesh_short_mm=0), "care", quiet=good)
        tow = "carbon-spread-160"
        self.expect("infusion.clear_face", infused(tow, "biax-450"), "note", quiet=infused("biax-450", tow))

    def mould(self, plies: int) -> JobSpec:
        """A mould of so many plies for a part of one."""
        document = panel("epoxy-2-1", "cloth-300").model_dump(mode="json")
        part = document["parts"][0]
        stack = [{"id": f"m{n}", "fabric_id": "cloth-300"} for n in range(plies)]
        document["parts"].append(part | {"id": "mould", "name": "Mould", "mould_for": "p", "plies": stack})
        return JobSpec.model_validate(document)

    def grounds(self):
        ply = on(epoxy(), substrate="bare plywood")

        def wet(pct):
            return on(ply, ground={"moisture_pct": pct})

        def concrete(days):
            return on(ply, substrate="concrete", ground={"age_days": days})

        rule = "conditions.wet_or_green_ground"
        self.expect(rule, wet(20), "stop", quiet=wet(11))
        self.expect(rule, wet(15), "care", quiet=on(wet(15), substrate="waxed mould"))
        self.expect(rule, concrete(10), "stop", quiet=concrete(30))
        self.expect(rule, concrete(24), "care")
        self.expect("conditions.contaminated", on(ply, ground={"contaminated": True}), "care")
        damp, dry = at(15, humidity_pct=80), at(15, humidity_pct=50)
        self.expect("conditions.blush", epoxy(), "care", damp, epoxy(), dry)
        pump = panel("epoxy-5-1", "cloth-300", practice={"basis": "volume"})
        self.expect("conditions.blush", pump, "care")

    def test_no_reason_opens_polyester_on_polystyrene(self):
        job = panel("polyester-general", "polystyrene-20")
        stop = plan(job, at(20)).cautions[0]
        given = Override(id="o", caution_id=stop.id, about=stop.about, said=stop.said, reason="only a little")
        standing = plan(job.model_copy(update={"overrides": (given,)}), at(20)).cautions[0]
        self.assertEqual((standing.id, standing.stops), ("materials.styrene_on_polystyrene", True))

    def test_powder_bound_mat_is_care(self):
        self.assertEqual(
            severities(panel("epoxy-2-1", "csm-450-powder"), at(20))["materials.mat_binder_with_epoxy"], "care"
        )

    def test_the_surface_counts_as_well_as_the_air(self):
        polyester = panel("polyester-general", "csm-450")
        self.assertEqual(severities(polyester, at(20, surface_c=3))["conditions.under_minimum"], "stop")
        self.assertEqual(severities(polyester, at(12))["conditions.under_minimum"], "care")
        # A surface that nobody read is not said to be anything.
        for surface_c, told in ((None, ["room"]), (12, ["room", "surface"])):
            said = [
                caution.message.split()[1]
                for caution in plan(polyester, at(12, surface_c=surface_c)).cautions
                if caution.id == "conditions.under_minimum"
            ]
            self.assertEqual(said, told)

    def test_steps_off_the_band_by_severity(self):
        wanted = {"fast": "care", "medium": None, "slow": "note", "extra-slow": "stop"}
        for name, severity in wanted.items():
            with self.subTest(hardener=name):
                found = severities(epoxy(hardener_id=f"epoxy-2-1-{name}"), at(18))
                self.assertEqual(found.get("conditions.hardener_off_band"), severity)
        two_faster = severities(epoxy(hardener_id="epoxy-2-1-fast"), at(24))
        self.assertEqual(two_faster["conditions.hardener_off_band"], "stop")

    def test_over_a_kilo_of_epoxy_in_its_cup_is_care(self):
        big = at(20, cup_ml=6000, largest_pot_g={"epoxy": 2000, "polyester": 3000, "vinyl ester": 3000})
        job = panel(
            "epoxy-2-1",
            "cloth-300",
            width_m=3,
            length_m=6,
            in_use={"resin_id": "epoxy-2-1", "hardener_id": "epoxy-2-1-extra-slow"},
        )
        self.assertEqual(severities(job, big)["people.runaway_pot"], "care")

    def test_over_the_highest_band_pots_shrink(self):
        self.assertEqual(severities(epoxy(), at(35.4))["conditions.hardener_off_band"], "care")

    def test_the_volume_ratio_taken_for_weight_is_named(self):
        """The classic error: 2:1 by volume is 100:45 by weight (common practice)."""
        job = epoxy(tin_ratio="2:1", tin_ratio_basis="weight")
        message = next(c.message for c in plan(job, at(20)).cautions if c.id == "mixing.more_hardener_is_not_faster")
        said = "2:1 by weight is off: this resin takes 100:45.2 by weight; 100:50 is its ratio by volume"
        self.assertEqual(message, said)
        self.assertNotIn("mixing.more_hardener_is_not_faster", severities(epoxy(tin_ratio="2:1"), at(20)))

    def test_stops_come_first(self):
        order = [caution.severity for caution in plan(panel("epoxy-2-1", "csm-450"), at(9, surface_c=6)).cautions]
        self.assertEqual(order, sorted(order, key=["stop", "care", "note"].index))
        self.assertEqual(order[0], "stop")

    def test_an_unknown_humidity_raises_no_dew_point(self):
        self.assertNotIn("conditions.near_the_dew_point", severities(epoxy(), at(20, surface_c=2)))

    def test_under_freezing_it_is_a_frost_point(self):
        facts = at(2, surface_c=1, humidity_pct=80)
        message = next(c.message for c in plan(epoxy(), facts).cautions if c.id == "conditions.near_the_dew_point")
        self.assertIn("frost point", message)


class Overriding(TestCase):
    """A stop is overridden for what it said, about the thing it was about, and for nothing else."""

    def stop(self, job, facts):
        return next(caution for caution in plan(job, facts).cautions if caution.severity == "stop")

    def overridden(self, job, stop, **changes):
        given = Override(id="o1", caution_id=stop.id, about=stop.about, said=stop.said, reason="its maker says epoxy")
        return job.model_copy(update={"overrides": (given.model_copy(update=changes),)})

    def test_an_overridden_stop_no_longer_stands(self):
        job = panel("epoxy-2-1", "csm-450")
        stop = self.stop(job, at(20))
        self.assertEqual((stop.about, plan(job, at(20)).next_step.words), ("parts/p/plies/y0", stop.message))
        answer = plan(self.overridden(job, stop), at(20))
        self.assertFalse(any(caution.stops for caution in answer.cautions))
        self.assertEqual(answer.cautions[0].override.reason, "its maker says epoxy")
        self.assertTrue(answer.next_step.words.startswith("mix pot 1"))
        self.assertNotIn("stop", [step.state for step in answer.steps])

    def test_it_is_of_the_thing_and_not_of_its_place(self):
        stop = self.stop(panel("epoxy-2-1", "csm-450"), at(20))
        moved = panel("epoxy-2-1", "cloth-300", "csm-450")
        self.assertTrue(self.stop(self.overridden(moved, stop), at(20)).stops)

    def test_it_is_of_what_was_said_whatever_the_units(self):
        job = panel("polyester-general", "csm-450")
        said = self.stop(job, at(4))
        given = self.overridden(job, said)
        self.assertFalse(self.stop(given, at(4, units="US")).stops)
        self.assertIn("39.2 °F", self.stop(given, at(4, units="US")).message)
        self.assertTrue(self.stop(given, at(2)).stops)


class Deep(TestCase):
    def test_what_a_thick_gap_peaks_at_is_that_of_its_own_paste(self):
        """exact: a slab of the paste's own weight and heat capacity between two faces of ply, worked out apart."""
        job = jointed({"kind": "gap", "length_m": 1, "width_mm": 12, "depth_mm": 40, "filler_id": "silica"})
        at_hand = settled(job, at(20))
        (planned,) = at_hand.draft.found["joints"]
        paste = planned.paste
        share = paste.resin_g / (paste.resin_g + paste.filler_g)
        ply, between = beneath("bare plywood"), (paste.resin_g + paste.filler_g) / paste.volume_ml
        # Resin 2.0 and a mineral 0.8 J/gK, by weight.
        slab = Layer(0.012, between, share * SPECIFIC_HEAT_J_PER_G_K + (1 - share) * 0.8, reacts=share)
        body = Body("slab", (ply, slab, ply), Face(H_TRAY), Face(H_TRAY))
        peak = simulate(body, cure_of(at_hand.mixes["resin"], 20), 20, until="peak").peak_c
        self.assertAlmostEqual(peak_of_joint_c(planned, at_hand.mixes["resin"], 20), peak, delta=1.5)
