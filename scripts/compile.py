"""Compiles the inner loops of a study by running one, over the demo's network with every figure explained once."""

from spinel.core.arcflash.explained import explain
from spinel.core.hazard import Study
from spinel.core.network.check import accept
from spinel.core.profile import NORTH_AMERICAN
from spinel.core.study import SiteStudy
from spinel.demo.site import document

figures = SiteStudy(Study(accept(document()), NORTH_AMERICAN, None, 40.0)).figures
explain(figures, 0, 0, int(figures.seen[0].argmax()))
