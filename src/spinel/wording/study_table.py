"""The study of a site as a table: a row for each location, case and side, in the words of its practice."""

from __future__ import annotations

import csv
from collections.abc import Callable
from typing import IO

from spinel.core.hazard import Study
from spinel.core.network.document import Network
from spinel.core.profile import profile
from spinel.core.rows import disarmed
from spinel.core.study import COLUMNS, SiteStudy
from spinel.wording.words import words_of

#: How far it is, in this order.
STAGES = ("figures", "rows")


def write_study(
    output: IO[str],
    network: Network,
    *,
    worst: bool,
    case: str | None = None,
    ceiling_cal_cm2: float = float("inf"),
    tell: Callable[[str], None] = lambda stage: None,
) -> None:
    """As CSV. ``worst``: one row for each location and side; ``case``: id or name of one case, all where none is given.
    ``ceiling_cal_cm2``: the site's own; the lower of it and the practice's holds. ``tell`` is told each stage. NotFound
    for a case that the document has not; then nothing is written."""
    practice = profile(network.site.profile)
    tell("figures")
    study = SiteStudy(Study(network, practice, None, min(ceiling_cal_cm2, practice.ceiling_cal_cm2)))
    found = study.worst_rows() if worst else study.rows(case)
    first = next(found, None)
    tell("rows")
    writer = csv.DictWriter(output, COLUMNS)
    writer.writeheader()
    words = words_of(practice)
    for row in (first, *found) if first is not None else ():
        writer.writerow({column: disarmed(value) for column, value in words.spoken(row).items()})
