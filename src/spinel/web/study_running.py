"""Studies are computed beside the server: whoever looks at the study brings what is asked for one step on."""

from __future__ import annotations

import json
from concurrent.futures import CancelledError
from concurrent.futures.process import BrokenProcessPool
from datetime import datetime

from flask import current_app

from spinel.actions import study_runs
from spinel.actions.acting import SYSTEM, Act
from spinel.actions.study_runs import StudyAsked
from spinel.core.errors import SpinelError
from spinel.core.hazard import Study
from spinel.core.network.check import accept
from spinel.core.profile import profile
from spinel.core.said import say
from spinel.core.study import SiteStudy
from spinel.core.study_result import STAGES, study_content
from spinel.web.filters import words
from spinel.web.heavy import Cancelled, Heavy, Tell
from spinel.web.here import site

KIND = "study"
#: So long a page waits for what may be there at once, s.
PATIENCE_S = 0.4


def advance(now: datetime) -> list[StudyAsked]:
    """Keep what is done; begin the first that is not. What waits still, in its order."""
    for run in study_runs.waiting(site()):
        act = Act(site(), SYSTEM, now)
        try:
            made = _made(run)
        except (Cancelled, CancelledError):
            # cancelled by another worker, whose act tells it
            continue
        except SpinelError as error:
            study_runs.fail(act, run.number, words().error(error))
            continue
        except (BrokenProcessPool, MemoryError):
            # it ended without a word, as for want of memory; asked for again and again it would end so each time
            study_runs.fail(act, run.number, words().say(say("study-process-ended")))
            continue
        if made is None:
            break
        study_runs.keep(act, run.number, made.decode())
    return study_runs.waiting(site())


def _heavy() -> Heavy:
    found: Heavy = current_app.extensions["studies"]
    return found


def _key(run: StudyAsked) -> str:
    return _heavy().key("site-study", run.document_hash, repr(run.ceiling_cal_cm2))


def _made(run: StudyAsked) -> bytes | None:
    text = study_runs.document_of(site(), run.number)
    args = text, run.document_hash, run.ceiling_cal_cm2
    return _heavy().make(KIND, _key(run), as_content, *args, patience_s=PATIENCE_S)


def stage(run: StudyAsked) -> str:
    """How far it is: one of ``STAGES``, or ``waits``."""
    told = _heavy().stage(KIND, _key(run))
    return told if told in STAGES else "waits"


def stop(run: StudyAsked) -> None:
    """What is computed for it is given up at its next stage."""
    _heavy().stop(KIND, _key(run))


def as_content(tell: Tell, document: str, document_hash: str, ceiling_cal_cm2: float) -> bytes:
    """In the process beside the server."""
    tell("figures")
    network = accept(json.loads(document))
    practice = profile(network.site.profile)
    study = SiteStudy(Study(network, practice, None, min(ceiling_cal_cm2, practice.ceiling_cal_cm2)))
    return study_content(study, document_hash, ceiling_cal_cm2, tell).encode()
