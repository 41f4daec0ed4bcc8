"""Practice profiles: the words, tables, thresholds and sources of one school. The computation is the same for all.

The first profile is North American. Templates take every word that differs between schools from ``terms``.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from spinel.core.errors import NotFound
from spinel.core.tables import nfpa70e_clothing, nfpa70e_shock
from spinel.core.tables.forms import Clothing, ShockRules


@dataclass(frozen=True, kw_only=True)
class Profile:
    """Limits in V, s, cal/cm². ``absence_limit_v``: at or below it a reading means absent. ``grounds_above_v``: grounds
    are required above it. ``ceiling_cal_cm2`` is a default; a site may set its own, only lower or equal."""

    id: str
    name: str
    terms: Mapping[str, str]
    shock: ShockRules
    clothing: Clothing
    clearing_cap_s: float = 2.0
    ceiling_cal_cm2: float = 40.0
    absence_limit_v: float = 3.0
    grounds_above_v: float = 1000.0
    sources: Mapping[str, str] = field(default_factory=dict)

    @property
    def threshold_v(self) -> float:
        """Below it a voltage is no shock hazard by this practice, V."""
        return self.shock.threshold_v


NORTH_AMERICAN = Profile(
    id="north-american",
    name="North American",
    shock=nfpa70e_shock.RULES,
    clothing=nfpa70e_clothing.CLOTHING,
    terms={
        "permit": "Energized work permit",
        "permit_prefix": "EWP",
        "program": "Switching program",
        "program_prefix": "SP",
        "practice_prefix": "PR",
        "isolation": "Isolation",
        "restoration": "Restoration",
        "director": "director",
        "operator": "operator",
        "ground": "ground",
        "deenergized": "de-energized",
        "energized": "energized",
        "safe_condition": "electrically safe work condition",
        "lockout": "lockout",
        "live": "LIVE",
        "unknown": "UNKNOWN",
        "dead": "DEAD, not proved",
        "proved": "PROVED DEAD",
        "grounded": "GROUNDED",
        "arc_flash_boundary": "Arc-flash boundary",
        "limited": "Limited approach",
        "restricted": "Restricted approach",
        "caution": (
            "Local codes, the site's electrical safety program and the equipment maker's instructions govern. "
            "A qualified person must verify these figures and the state of the equipment before work starts."
        ),
        "program_caution": (
            "Local codes, the site's electrical safety program and the equipment maker's instructions govern. "
            "A qualified person must verify each step and the state of the equipment. Until the last proof and the "
            "last ground, everything is live. If anything is not as written: stop."
        ),
    },
    sources={
        "permit": "NFPA 70E-2021 130.2, own wording, from memory",
        "normal operation": "NFPA 70E-2021 110.4(D), own wording, from memory",
        "justification": "NFPA 70E-2021 110.4, own wording, from memory",
        "clearing cap": "IEEE 1584-2018 informative text, common practice: two seconds where a person can get clear",
    },
)

_PROFILES = {p.id: p for p in (NORTH_AMERICAN,)}


def profile(profile_id: str) -> Profile:
    """The shipped profile with this id, or NotFound."""
    try:
        return _PROFILES[profile_id]
    except KeyError:
        raise NotFound("practice profile", profile_id) from None
