"""What the demo has planned for its next days; one of them is on two jobs at once."""

from __future__ import annotations

from datetime import timedelta

from spinel.actions import job_plan, jobs
from spinel.actions.job_plan import Planned
from spinel.demo.history import Demo


def planned(demo: Demo) -> None:
    for number, start_h, end_h, workers, remarks in (
        ("J-0017", 25, 28, ("nils", "wanda"), "The oil drain of T1 has no lock: somebody stands by it"),
        ("J-0004", 26, 29, ("wanda",), ""),
        ("J-0010", 50, 53, ("nils",), "Roof: two harnesses, no work in wind above 10 m/s"),
    ):
        when = Planned(
            start=demo.moment + timedelta(hours=start_h), end=demo.moment + timedelta(hours=end_h),
            in_charge=demo.person("sorcha"), workers=tuple(demo.person(w) for w in workers), remarks=remarks,
            attendants=(demo.person("jory"),) if number == "J-0017" else (),
        )  # fmt: skip
        job_plan.plan(demo.act("maren", -1.2), number, jobs.view(demo.site, number).version, when)
