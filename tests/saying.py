"""What the program says, in the words of the shipped practice: for tests that look at a sentence."""

from spinel.core.errors import SpinelError
from spinel.core.profile import NORTH_AMERICAN
from spinel.core.said import Said
from spinel.wording.words import words_of


def en(said):
    """The sentence of something said, of an error, or of several."""
    words = words_of(NORTH_AMERICAN)
    if isinstance(said, SpinelError):
        return words.error(said)
    if isinstance(said, Said | str):
        return words.say(said).replace("\N{NO-BREAK SPACE}", " ")
    return words.spoken(said)
