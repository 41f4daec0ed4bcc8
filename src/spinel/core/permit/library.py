"""The shipped task library: the six tasks that people are qualified for, and all others, each resting on one of them.

Common practice, own wording. What a task *does* (``acts``) decides which questions are asked, what it reaches and
whether it may ever be exempt: that comes with the act and is nobody's to edit. Steps, practices, people, gear and what
the place needs are the coordinator's (actions/task_library).
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from spinel.core.errors import NotFound
from spinel.core.permit.tasks import COMMON, SKILLS, Task
from spinel.core.said import Sayable, say

GROUPS = (
    "common", "operating", "testing", "inspecting", "opening", "racking", "replacing", "terminals", "cleaning",
    "meters", "battery", "drives", "solar", "transfer", "shore", "temporary", "capacitors", "cables", "other",
)  # fmt: skip
#: What people are qualified as for a task that does so, where the task does not say otherwise.
_SKILL = {"operates": "operate", "measures": "test", "inspects": "inspect", "interacts": "insert", "alters": "retorque",
          "none": ""}  # fmt: skip
_REACHES: dict[str, Sayable] = {
    **{a: SKILLS[s].reaches for a, s in _SKILL.items() if s}, "none": say("tasks-behind-an-isolation"),
    # what only racks or plugs asks for the device that is moved
    "interacts": say("tasks-all-terminals-count-as-reached"),
}  # fmt: skip
_LIKELIHOOD: dict[str, Sayable] = {
    **{a: SKILLS[s].likelihood for a, s in _SKILL.items() if s}, "none": say("tasks-no-arc-once-it-is-isolated"),
}  # fmt: skip
_DOORS = {
    "closed": say("tasks-all-doors-and-covers-closed-and-secured"), "open": SKILLS["test"].doors,
    "look": SKILLS["inspect"].doors, "off": SKILLS["retorque"].doors, "front": SKILLS["replace"].doors,
    "moving": SKILLS["insert"].doors, "trim": say("tasks-trim-off-gutters-exposed"),
    "dead": say("tasks-as-the-isolation-leaves-it"),
    "outside": say("tasks-nothing-is-opened"),
}  # fmt: skip

_METER, _CLAMP, _DETECTOR, _IR = "meter", "clamp", "detector", "camera"
_TOOLS, _BLANKETS, _MAT, _STICK = "insulated-tools", "blankets", "mat", "stick"
_ACID = ("goggles", "face-shield", "apron", "acid-gloves")
_BATTERY = ("battery",)
_CONVERTERS = ("rectifier", "inverter", "ups")
_SWITCHES = ("breaker", "switch", "disconnector", "contactor", "fuse")


def _task(
    task_id: str, group: str, acts: str, doors: str, steps: str, *, skill: str = "", kinds: tuple[str, ...] = (),
    classes: tuple[str, ...] = (), practices: str = "", people: int = 2, instruments: str = "", tools: str = "",
    wear: str = "", place: str = "", hazards: str = "", live: bool | None = None,
) -> Task:  # fmt: skip
    like = SKILLS.get(skill or _SKILL[acts])
    exemption = like.exemption if like and like.acts == acts else ""
    common = COMMON if acts in ("measures", "inspects", "interacts", "alters") else ()
    return Task(
        id=task_id,
        name=say(f"task-{task_id}"),
        acts=acts,
        reaches=SKILLS["insert"].reaches if group == "racking" else _REACHES[acts],
        doors=_DOORS[doors],
        likelihood=_LIKELIHOOD[acts],
        crosses_restricted=acts in ("measures", "alters"),
        fact_keys=like.fact_keys if like and like.acts == acts else (),
        steps=tuple(say(f"do-{s}") for s in steps.split()),
        practices=(*common, *(say(f"keep-{s}") for s in practices.split())),
        exemption=exemption,
        skill=skill or _SKILL[acts],
        group=group,
        kinds=kinds,
        classes=classes,
        people=people,
        instruments=tuple(say(f"instr-{s}") for s in instruments.split()),
        tools=tuple(say(f"tool-{s}") for s in tools.split()),
        wear=tuple(say(f"wear-{s}") for s in wear.split()),
        place=tuple(say(f"place-{s}") for s in place.split()),
        hazards=tuple(say(f"hazard-{s}") for s in hazards.split()),
        # what alters or moves something is live only where a site says so
        live=acts in ("operates", "measures", "inspects") if live is None else live,
    )


_MORE = (
    # operating
    _task("operate-remote", "operating", "operates", "closed", "read-tag clear-room operate-from-afar look-indicator",
          kinds=_SWITCHES, people=1),
    _task("start-stop", "operating", "operates", "closed", "read-tag clear-machine press-once look-it-runs",
          kinds=("contactor", "breaker", "switch"), people=1, hazards="moving-parts"),
    _task("reset-tripped", "operating", "operates", "closed",
          "read-tag know-the-cause stand-aside press-once look-indicator",
          kinds=("breaker", "contactor"), practices="cause-first", hazards="closing-on-fault"),
    # testing
    _task("test-absence", "testing", "measures", "open",
          "meter-set prove-before open-from-side every-pair prove-after", instruments=_METER,
          practices="until-proved-live"),
    _task("test-high-voltage", "testing", "measures", "open", "detector-set prove-before each-conductor prove-after",
          classes=("medium-voltage switchgear", "transformer", "outdoor terminal"), instruments=_DETECTOR,
          tools=_STICK,
          practices="until-proved-live", people=2),
    _task("measure-current", "testing", "measures", "open", "clamp-look open-from-side clamp-one close-door",
          instruments=_CLAMP),
    _task("log-power", "testing", "measures", "open", "leads-fused prove-before clip-each route-leads close-door",
          instruments="logger", practices="clips-hold", hazards="left-alone"),
    _task("test-control", "testing", "measures", "open", "meter-set prove-before open-from-side one-hand prove-after",
          classes=("control panel", "motor control center"), instruments=_METER, hazards="foreign-voltage"),
    _task("test-phasing", "testing", "measures", "open", "prove-before phase-to-phase rotation prove-after",
          instruments="phase-tester"),
    _task("test-insulation", "testing", "none", "dead",
          "isolated-first no-others-on test-from-one-end discharge-after",
          skill="test", instruments="insulation", hazards="test-voltage"),
    _task("test-relay", "testing", "interacts", "open", "short-the-currents plug-test-block inject plug-out-in-order",
          classes=("medium-voltage switchgear", "low-voltage switchgear", "control panel"), instruments="injector",
          practices="never-open-secondary", hazards="open-secondary", skill="test"),
    _task("test-ground-path", "testing", "measures", "open", "clamp-look clamp-one note-and-compare",
          instruments=_CLAMP),
    # inspecting
    _task("thermography-open", "inspecting", "inspects", "look",
          "mark-boundary open-from-side look-from-mark close-door",
          instruments=_IR, practices="nothing-crosses"),
    _task("thermography-window", "inspecting", "inspects", "closed", "read-tag lid-of-window look-through close-lid",
          instruments=_IR, people=1),
    _task("ultrasound", "inspecting", "inspects", "closed", "read-tag listen-along note-and-compare", people=1,
          instruments="ultrasound"),
    _task("discharge-survey", "inspecting", "inspects", "closed", "read-tag sensor-outside note-and-compare",
          people=1,
          classes=("medium-voltage switchgear", "cable junction box"), instruments="discharge"),
    _task("look-behind-door", "inspecting", "inspects", "look",
          "mark-boundary open-from-side look-from-mark close-door",
          practices="nothing-crosses"),
    _task("read-plate-closed", "inspecting", "inspects", "outside", "read-tag read-plate note-and-compare", people=1),
    # opening
    _task("open-hinged", "opening", "inspects", "look", "stand-aside open-from-side look-from-mark close-door",
          practices="nothing-crosses"),
    _task("remove-bolted-cover", "opening", "interacts", "off",
          "two-hold-it last-bolts-top lift-straight set-aside", tools=_TOOLS, hazards="falling-cover", people=2),
    _task("remove-trim", "opening", "interacts", "trim", "breakers-noted two-hold-it last-bolts-top lift-straight",
          classes=("panelboard", "switchboard"), tools=_TOOLS, practices="gutters-are-live", hazards="falling-cover"),
    _task("refit-cover", "opening", "interacts", "off", "count-tools two-hold-it first-bolts-top every-bolt",
          tools=_TOOLS, hazards="falling-cover"),
    # racking
    _task("rack-breaker", "racking", "interacts", "moving",
          "lock-off look-shutters stand-aside rack-once look-seating",
          kinds=("breaker",), classes=("medium-voltage switchgear", "low-voltage switchgear"),
          practices="remote-racking"),
    _task("rack-remote", "racking", "interacts", "closed",
          "lock-off motor-on-handle clear-room rack-from-afar look-seating",
          kinds=("breaker",), tools="racking-motor", live=True),
    _task("insert-bucket", "racking", "interacts", "moving", "lock-off stabs-light move-once look-seating",
          classes=("motor control center",)),
    _task("pull-fuse", "racking", "interacts", "off", "load-off fuse-puller stand-aside pull-straight",
          kinds=("fuse",), tools="fuse-puller", practices="never-under-load"),
    _task("plug-in-tap", "racking", "interacts", "off", "lock-off stabs-light move-once look-seating",
          kinds=("bus",)),
    # replacing
    _task("replace-fuse", "replacing", "alters", "off",
          "load-off prove-dead-side fuse-puller same-rating look-seating",
          kinds=("fuse",), skill="replace", tools="fuse-puller"),
    _task("replace-module", "replacing", "alters", "front",
          "open-branch blankets-on caps-on swap-torque blankets-off",
          skill="replace", tools=f"{_TOOLS} {_BLANKETS} {_MAT}"),
    _task("replace-overload", "replacing", "alters", "off",
          "open-branch blankets-on swap-torque same-rating blankets-off",
          classes=("motor control center",), skill="replace", tools=_TOOLS),
    _task("replace-contactor", "replacing", "alters", "off",
          "open-branch blankets-on caps-on swap-torque blankets-off",
          kinds=("contactor",), skill="replace", tools=_TOOLS),
    _task("replace-relay", "replacing", "alters", "open",
          "wires-marked blankets-on caps-on swap-torque test-it-works",
          classes=("control panel", "motor control center"), skill="replace", tools=_TOOLS,
          hazards="foreign-voltage"),
    _task("replace-lamp", "replacing", "alters", "open", "open-from-side same-rating swap-torque close-door",
          classes=("control panel",), skill="replace"),
    # terminals
    _task("terminate-outfeed", "terminals", "alters", "off",
          "device-locked-off prove-dead-side blankets-on land-conductor torque-mark",
          tools=f"{_TOOLS} {_BLANKETS} {_MAT}"),
    _task("terminate-infeed", "terminals", "alters", "off",
          "upstream-locked prove-dead-side land-conductor torque-mark",
          tools=_TOOLS, live=False),
    _task("pull-cable-in", "terminals", "interacts", "off", "blankets-on fish-nonmetal two-hold-it no-slack-inside",
          classes=("panelboard", "switchboard", "motor control center", "control panel"), tools=_BLANKETS,
          hazards="tape-in-bus"),
    # cleaning
    _task("clean-inside-live", "cleaning", "interacts", "off", "mark-boundary vacuum-nonmetal no-wiping look-again",
          tools="vacuum", hazards="dust"),
    _task("clean-dead", "cleaning", "none", "dead",
          "isolated-first vacuum-nonmetal wipe-insulators look-again count-tools",
          tools="vacuum", hazards="dust"),
    _task("change-filters", "cleaning", "inspects", "outside", "filters-outside note-and-compare", people=1,
          hazards="dust"),
    # meters and current transformers
    _task("read-panel-meter", "meters", "operates", "closed", "read-tag turn-meter-switch note-and-compare",
          people=1),
    _task("replace-meter", "meters", "alters", "off",
          "short-the-currents volts-out swap-torque volts-in unshort-last",
          skill="replace", tools=_TOOLS, practices="never-open-secondary", hazards="open-secondary"),
    _task("work-on-ct", "meters", "alters", "off", "short-the-currents check-short work-behind-short unshort-last",
          skill="replace", tools=_TOOLS, practices="never-open-secondary", hazards="open-secondary"),
    # batteries
    _task("battery-voltages", "battery", "measures", "open", "vent-first meter-set each-cell note-and-compare",
          kinds=_BATTERY, instruments=_METER, wear=" ".join(_ACID), place="eyewash vented no-sparks",
          hazards="electrolyte"),
    _task("battery-torque", "battery", "alters", "open",
          "vent-first jewelry-off cover-neighbours one-connector torque-mark",
          kinds=_BATTERY, tools=_TOOLS, wear=" ".join(_ACID), place="eyewash vented no-sparks",
          hazards="electrolyte gas never-off"),
    _task("battery-clean", "battery", "interacts", "open", "vent-first jewelry-off damp-cloth neutralise look-again",
          kinds=_BATTERY, wear=" ".join(_ACID), place="eyewash vented no-sparks",
          hazards="electrolyte gas never-off"),
    _task("battery-electrolyte", "battery", "interacts", "open", "vent-first each-cell-vent top-up neutralise",
          kinds=_BATTERY, wear=" ".join(_ACID), place="eyewash vented no-sparks",
          hazards="electrolyte gas never-off"),
    _task("battery-cell", "battery", "alters", "open",
          "vent-first jewelry-off open-string cover-neighbours lift-cell polarity torque-mark",
          kinds=_BATTERY, skill="replace", tools=f"{_TOOLS} cell-lift", wear=" ".join(_ACID),
          place="eyewash vented no-sparks",
          hazards="electrolyte gas never-off weight", people=2),
    _task("battery-open-string", "battery", "alters", "open", "charger-off load-off one-connector cover-neighbours",
          kinds=_BATTERY, tools=_TOOLS, wear=" ".join(_ACID), place="eyewash vented no-sparks",
          hazards="electrolyte gas never-off"),
    # drives
    _task("drive-link", "drives", "measures", "open", "wait-discharge meter-set link-three-ways twice-falling",
          kinds=_CONVERTERS, instruments=_METER, hazards="stored-charge"),
    _task("drive-module", "drives", "alters", "off", "wait-discharge prove-dead-side swap-torque test-it-works",
          kinds=_CONVERTERS, skill="replace", tools=_TOOLS, hazards="stored-charge weight", live=False),
    _task("drive-fan", "drives", "none", "dead", "isolated-first wait-discharge swap-torque", kinds=_CONVERTERS,
          hazards="stored-charge"),
    # solar
    _task("solar-string", "solar", "measures", "open", "meter-set prove-before string-open each-string prove-after",
          kinds=("inverter",), instruments=_METER, hazards="daylight"),
    _task("solar-connector", "solar", "alters", "outside", "inverter-off no-current connector-tool cap-both",
          kinds=("inverter",), tools="connector-tool", practices="never-under-load",
          hazards="daylight height weather"),
    # transfer switches
    _task("transfer-test", "transfer", "operates", "closed",
          "tell-those-fed read-tag start-test look-both back-to-auto",
          kinds=("transfer_switch",)),
    _task("transfer-by-hand", "transfer", "operates", "closed",
          "tell-those-fed auto-off handle-once look-both back-to-auto",
          kinds=("transfer_switch",)),
    _task("transfer-inside", "transfer", "none", "dead", "isolated-first both-sides-locked work-list back-to-auto",
          kinds=("transfer_switch",)),
    # shore supplies
    _task("shore-plug", "shore", "interacts", "outside",
          "tell-ship breaker-locked-off pilot-first plug-home breaker-on-last",
          kinds=("shore_connection",), hazards="damp ship-feeds-back", practices="never-under-load"),
    _task("shore-unplug", "shore", "interacts", "outside", "tell-ship breaker-locked-off ship-off unplug cap-both",
          kinds=("shore_connection",), hazards="damp ship-feeds-back", practices="never-under-load"),
    # temporary supplies
    _task("temporary-connect", "temporary", "alters", "off",
          "upstream-locked prove-dead-side land-conductor rotation labels-up",
          tools=_TOOLS, hazards="foreign-voltage", live=False),
    _task("temporary-inspect", "temporary", "inspects", "outside",
          "walk-the-cable residual-device-test note-and-compare", people=1,
          hazards="damp"),
    # capacitors
    _task("capacitor-discharge", "capacitors", "measures", "open", "wait-discharge each-pair short-and-ground",
          kinds=("capacitor",), instruments=_METER, tools=_STICK, hazards="stored-charge"),
    _task("capacitor-unit", "capacitors", "none", "dead",
          "isolated-first wait-discharge short-and-ground swap-torque",
          kinds=("capacitor",), skill="replace", hazards="stored-charge weight"),
    # cables
    _task("cable-identify", "cables", "measures", "outside", "drawing-and-tag signal-on follow-it mark-cable",
          kinds=("cable",), instruments="tracer", hazards="other-cables"),
    _task("cable-spike", "cables", "interacts", "outside", "drawing-and-tag mark-cable spike-from-afar look-at-spike",
          kinds=("cable",), tools="spike-gun", hazards="other-cables", live=False),
    _task("cable-joint", "cables", "none", "dead", "isolated-first cable-spiked ground-both-ends joint-dry",
          kinds=("cable",), skill="replace", place="dry-tent", hazards="gas-torch confined"),
    # other than electrical
    _task("mechanical", "other", "none", "dead", "isolated-first try-start work-list count-tools",
          hazards="moving-parts stored-pressure"),
    _task("paint", "other", "none", "dead", "isolated-first cover-openings work-list count-tools",
          hazards="fumes height"),
    _task("clean-machine", "other", "none", "dead", "isolated-first try-start no-jet work-list",
          hazards="damp moving-parts"),
    _task("dig", "other", "none", "outside", "drawing-and-tag trace-before-digging hand-dig mark-cable",
          hazards="other-cables traffic"),
    _task("lift-near", "other", "none", "outside", "line-off-or-distance banksman work-list",
          hazards="height overhead-line"),
)  # fmt: skip

TASKS: Mapping[str, Task] = {t.id: t for t in (*SKILLS.values(), *_MORE)}


def task(task_id: str) -> Task:
    """The shipped task with this id, or NotFound."""
    try:
        return TASKS[task_id]
    except KeyError:
        raise NotFound("task", task_id) from None


def with_words(shipped: Task, kept: Mapping[str, object]) -> Task:
    """A task as a site has it: what is the coordinator's to say replaced, what it does and what is asked as shipped."""
    own = {k: v for k, v in kept.items() if k in EDITABLE}
    return replace(shipped, **own)  # type: ignore[arg-type]


#: What a coordinator may change of a task.
EDITABLE = (
    "name", "steps", "practices", "people", "instruments", "tools", "wear", "place", "hazards", "live"
)  # fmt: skip
