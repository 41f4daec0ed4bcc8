"""The demo's gear, all invented: about sixty items, one glove pair overdue, one meter out of use."""

from __future__ import annotations

from datetime import date, timedelta

from spinel.actions import gear, gear_inspection, gear_intervals
from spinel.actions.gear import NewItem
from spinel.core.gear.inspection import NUMBER, challenges
from spinel.core.gear.items import Item
from spinel.core.isolation.instruments import ROMAN
from spinel.demo.history import Demo

CRIB, SHOP, INTAKE, QUAY = "Tool crib, shelf 2", "Electrical shop", "Intake house, cabinet", "Quay store"
#: When the register was begun, hours from the demo's moment.
BEGUN_H = -24 * 28
_BOTH, _AC = ("ac", "dc"), ("ac",)


def _meter(low: str, high: str, category: str) -> dict[str, str]:
    return {"low_v": low, "high_v": high, "category": category}


def _arc(rating: str) -> dict[str, str]:
    return {"arc_rating_cal_cm2": rating}


#: number, kind, ratings, currents, size, place, owner, days since it was tested, days since it was first issued
ITEMS: tuple[tuple[str, str, dict[str, str], tuple[str, ...], str, str, str, int | None, int | None], ...] = (
    ("M-12", "contact", _meter("12", "1000", "4"), _BOTH, "", SHOP, "", 70, None),
    ("M-14", "contact", _meter("12", "1000", "3"), _BOTH, "", CRIB, "", 120, None),
    ("M-9", "contact", _meter("12", "600", "3"), _AC, "", CRIB, "", 200, None),
    ("M-16", "contact", _meter("12", "1000", "3"), _BOTH, "", CRIB, "", 345, None),
    ("M-2", "contact", _meter("24", "600", "2"), _AC, "", CRIB, "", 90, None),
    ("L-5", "low_impedance", _meter("24", "1000", "4"), _BOTH, "", SHOP, "", 70, None),
    ("D-3", "detector", {"low_v": "1200", "high_v": "36000"}, _AC, "", INTAKE, "", 150, None),
    ("D-4", "detector", {"low_v": "1200", "high_v": "36000"}, _AC, "", SHOP, "", 40, None),
    ("LD-1", "leads", {"high_v": "1000", "category": "4"}, (), "", SHOP, "", 70, None),
    ("LD-2", "leads", {"high_v": "1000", "category": "3"}, (), "", CRIB, "", 120, None),
    ("PU-1", "proving_unit", {"low_v": "50", "high_v": "690"}, _BOTH, "", SHOP, "", 70, None),
    ("PU-2", "proving_unit", {"low_v": "1200", "high_v": "36000"}, _AC, "", INTAKE, "", 150, None),
    ("G-08", "gloves", {"glove_class": "00"}, (), "11", "Locker 4", "nils", 60, 55),
    ("G-16", "gloves", {"glove_class": "00"}, (), "9", "Locker 5", "wanda", 75, 66),
    ("G-21", "gloves", {"glove_class": "0"}, (), "10", "Locker 2", "bram", 185, 178),
    ("G-22", "gloves", {"glove_class": "0"}, (), "10", CRIB, "", 260, 220),
    ("G-23", "gloves", {"glove_class": "0"}, (), "9", CRIB, "", 45, 40),
    ("G-24", "gloves", {"glove_class": "00"}, (), "10", CRIB, "", 100, None),
    ("G-31", "gloves", {"glove_class": "2"}, (), "10", INTAKE, "", 90, 80),
    ("G-32", "gloves", {"glove_class": "2"}, (), "11", INTAKE, "", 90, None),
    ("LP-08", "protectors", {}, (), "11", "Locker 4", "nils", None, None),
    ("LP-16", "protectors", {}, (), "9", "Locker 5", "wanda", None, None),
    ("LP-21", "protectors", {}, (), "10", "Locker 2", "bram", None, None),
    ("LP-31", "protectors", {}, (), "10", INTAKE, "", None, None),
    ("SL-1", "sleeves", {"glove_class": "2"}, (), "regular", INTAKE, "", 200, 190),
    ("BL-1", "blanket", {"glove_class": "0"}, (), "", CRIB, "", 240, 230),
    ("BL-2", "blanket", {"glove_class": "0"}, (), "", CRIB, "", 240, 230),
    ("BL-3", "blanket", {"glove_class": "2"}, (), "", INTAKE, "", 100, 95),
    ("MA-1", "mat", {"glove_class": "0"}, (), "", CRIB, "", 180, None),
    ("MA-2", "mat", {"glove_class": "2"}, (), "", INTAKE, "", 180, None),
    ("SH-04", "arc_shirt", _arc("8"), (), "L", "Locker 4", "nils", None, None),
    ("SH-05", "arc_shirt", _arc("8"), (), "M", "Locker 5", "wanda", None, None),
    ("SH-02", "arc_shirt", _arc("8"), (), "L", "Locker 2", "bram", None, None),
    ("TR-04", "arc_trousers", _arc("8"), (), "L", "Locker 4", "nils", None, None),
    ("TR-05", "arc_trousers", _arc("8"), (), "M", "Locker 5", "wanda", None, None),
    ("TR-02", "arc_trousers", _arc("8"), (), "L", "Locker 2", "bram", None, None),
    ("CO-12", "arc_coverall", _arc("12"), (), "L", CRIB, "", None, None),
    ("CO-13", "arc_coverall", _arc("12"), (), "M", CRIB, "", None, None),
    ("SU-07", "arc_jacket", _arc("25"), (), "M", CRIB, "", None, None),
    ("SU-08", "arc_bib", _arc("25"), (), "M", CRIB, "", None, None),
    ("SU-09", "arc_jacket", _arc("40"), (), "XL", CRIB, "", None, None),
    ("SU-10", "arc_bib", _arc("40"), (), "XL", CRIB, "", None, None),
    ("FS-1", "arc_shield", _arc("12"), (), "", CRIB, "", None, None),
    ("FS-2", "arc_shield", _arc("12"), (), "", CRIB, "", None, None),
    ("H-03", "arc_hood", _arc("25"), (), "", CRIB, "", None, None),
    ("H-04", "arc_hood", _arc("40"), (), "", CRIB, "", None, None),
    ("AG-1", "arc_gloves", _arc("12"), (), "10", CRIB, "", None, None),
    ("PG-1", "grounds", {"withstand_ka": "42", "withstand_s": "0.5"}, (), "", INTAKE, "", 140, None),
    ("PG-2", "grounds", {"withstand_ka": "21", "withstand_s": "0.25"}, (), "", CRIB, "", 140, None),
    ("IT-1", "insulated_tools", {"high_v": "1000"}, (), "", CRIB, "", 300, None),
    ("IT-2", "insulated_tools", {"high_v": "1000"}, (), "", SHOP, "", 300, None),
    ("HS-1", "hot_stick", {"high_v": "36000"}, (), "", INTAKE, "", 410, None),
    ("RH-1", "rescue_hook", {"high_v": "36000"}, (), "", INTAKE, "", 410, None),
    ("RH-2", "rescue_hook", {"high_v": "1000"}, (), "", CRIB, "", 410, None),
    ("PL-201", "lock", {}, (), "", "Lock board", "", None, None),
    ("PL-202", "lock", {}, (), "", "Lock board", "", None, None),
    ("PL-203", "lock", {}, (), "", "Lock board", "", None, None),
    ("BR-1", "barricade", {}, (), "", QUAY, "", None, None),
    ("BR-2", "barricade", {}, (), "", CRIB, "", None, None),
    ("LT-1", "light", {}, (), "", CRIB, "", None, None),
    ("LT-2", "light", {}, (), "", QUAY, "", None, None),
)


def registered(demo: Demo) -> None:
    """The register begins; then what people did with it."""
    begun = (demo.moment + timedelta(hours=BEGUN_H)).date() - timedelta(days=1)

    def day(ago: int | None) -> date | None:
        return None if ago is None else min((demo.moment - timedelta(days=ago)).date(), begun)

    for number, kind, ratings, currents, size, place, owner, tested, issued in ITEMS:
        told = NewItem(
            number=number, kind_id=kind, ratings=ratings, currents=currents, size=size, place=place, owner=owner,
            tested=day(tested), in_service=day(issued), certificate=f"QT {number}" if tested else "",
        )  # fmt: skip
        gear.add(demo.act("maren", BEGUN_H), told)
    gear.issue(demo.act("nils", -72), "CO-12", "nils", "")
    gear.bar(demo.act("bram", -50), "M-9", "Lead of the black probe is nicked to the copper")
    gear_intervals.shorten(demo.act("maren", -49), "leads", 6, "Two leads were nicked within a year")
    for login, number, hours in (("nils", "G-08", -30), ("wanda", "G-16", -27), ("bram", "M-12", -25.5)):
        item = gear.one(demo.site, number)
        answers = {c.id: read_off(item, c.id) if c.reads else "yes" for c in challenges(item)}
        gear_inspection.inspect(demo.act(login, hours), number, answers, "sorcha")


def read_off(item: Item, challenge: str) -> str:
    """What somebody reads off an item that is as the register says."""
    if challenge == NUMBER:
        return item.number
    if challenge == "category":
        return ROMAN[item.rating.category or 0]
    if challenge == "tested":
        assert item.tested is not None
        return item.tested.isoformat()[:7]
    value = getattr(item.rating, challenge)
    return value if isinstance(value, str) else f"{value:g}"
