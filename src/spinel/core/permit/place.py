"""Is the place ready? What the person in charge answers, standing there, before a permit is accepted. Each is put so
that yes is the safe answer; nothing else is. Common practice, own wording."""

from __future__ import annotations

from collections.abc import Mapping

from spinel.core.errors import InputError
from spinel.core.said import say

#: By what is looked at, in the order in which somebody walks in.
PLACE = {
    "light": say("place-light"),
    "floor": say("place-floor"),
    "way_out": say("place-way-out"),
    "stored": say("place-stored"),
    "covers": say("place-covers"),
    "bare": say("place-bare"),
    "weather": say("place-weather"),
}


#: Answered too where the task asks something of the place: of a battery an eyewash within reach, and no sparks.
OF_THE_TASK = "task"


def check_place(answers: Mapping[str, str], task_asks: bool = False) -> dict[str, str]:
    """The answers to keep. InputError beside the first that is not yes: the work waits until the place is made so.

    >>> check_place(dict.fromkeys(PLACE, "yes")) == dict.fromkeys(PLACE, "yes")
    True
    """
    asked = (*PLACE, OF_THE_TASK) if task_asks else tuple(PLACE)
    for key in asked:
        if answers.get(key, "") != "yes":
            raise InputError(f"place_{key}", answers.get(key, ""), say("place-made-so-first"))
    return dict.fromkeys(asked, "yes")
