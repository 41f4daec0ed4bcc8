"""Tables as peewee models. The schema itself is in migrations/; these only map it."""

from __future__ import annotations

from peewee import CompositeKey, FloatField, ForeignKeyField, IntegerField, Model, TextField

from spinel.core.said import Sayable
from spinel.core.stored import said_of, said_text
from spinel.store.database import database


class _Base(Model):  # type: ignore[misc]  # peewee is untyped
    class Meta:
        database = database
        legacy_table_names = False


class SaidField(TextField):  # type: ignore[misc]
    """Somebody's own words, or a code of the catalogue with its values."""

    def db_value(self, value: Sayable) -> str:
        return said_text(value)

    def python_value(self, value: str) -> Sayable:
        return said_of(value)


class Person(_Base):
    login = TextField()
    name = TextField()
    phone = TextField(default="")
    password_hash = TextField()
    active = IntegerField(default=1)
    must_change = IntegerField(default=0)
    created_at = TextField()
    employer = TextField(default="own")
    company = TextField(default="")
    trade = TextField(default="")
    languages = TextField(default="")
    code_hash = TextField(default="")
    otp = TextField(default="")


class PersonRole(_Base):
    person = ForeignKeyField(Person, backref="role_rows")
    role = TextField()

    class Meta:
        primary_key = CompositeKey("person", "role")


class Qualification(_Base):
    person = ForeignKeyField(Person, backref="qualifications")
    task_id = TextField()
    equipment_class = TextField()
    until = TextField()
    since = TextField(default="")


class Training(_Base):
    """What somebody was taught or showed: of a course, or (``course`` "task") of a task on a class of equipment.
    ``until``: the last day on which it counts, empty for what grants nothing by itself. ``evidence``: a kept file."""

    person = ForeignKeyField(Person)
    course = TextField()
    task_id = TextField(default="")
    equipment_class = TextField(default="")
    how = TextField()
    day = TextField()
    until = TextField(default="")
    seen_by = TextField()
    note = TextField(default="")
    evidence = TextField(default="")
    at = TextField()


class Tablet(_Base):
    """A shared device that was registered; what its browser holds is kept as a hash."""

    name = TextField()
    token_hash = TextField()
    made_at = TextField()
    ended_at = TextField(null=True)


class Exchange(_Base):
    """Hazards told by the host and by those who come, each signed by their own side."""

    number = TextField()
    company = TextField()
    work = TextField()
    job = TextField(default="")
    told = TextField()
    heard = TextField(default="")
    bring = TextField(default="")
    from_day = TextField()
    until = TextField()
    host = ForeignKeyField(Person)
    guest = ForeignKeyField(Person)
    state = TextField(default="offered")
    signed_at = TextField(null=True)
    version = IntegerField(default=1)
    changed_at = TextField()
    changed_by = TextField()


class Setting(_Base):
    key = TextField(primary_key=True)
    value = TextField()


class Revision(_Base):
    hash = TextField(primary_key=True)
    number = IntegerField()
    document = TextField()
    published_by = TextField()
    published_at = TextField()


class NetworkDraft(_Base):
    """A network in the making. ``base``: hash of the revision that it is compared with, empty where there was none.
    ``at_step``: the step that it stands at; later ones were undone. ``answers``: is a difference so on site already.
    ``faults``: cells of the workbook that it was read from that are not in it.
    """

    number = TextField()
    base = TextField(default="")
    at_step = IntegerField()
    state = TextField(default="open")
    answers = TextField(default="{}")
    faults = TextField(default="[]")
    made_by = ForeignKeyField(Person)
    made_at = TextField()
    version = IntegerField(default=1)
    changed_at = TextField()
    changed_by = TextField()


class DraftStep(_Base):
    """A state that a draft was in, and what made it so. ``document``: packed."""

    draft = ForeignKeyField(NetworkDraft)
    number = IntegerField()
    what = SaidField()
    by = TextField()
    at = TextField()
    hash = TextField()
    document = TextField()


class Attachment(_Base):
    """A kept file, or a link, that belongs to a piece of equipment. ``gone``: taken off, and kept."""

    element_id = TextField()
    title = TextField()
    file = TextField(default="")
    link = TextField(default="")
    at = TextField()
    by = TextField()
    gone = IntegerField(default=0)


class Maintenance(_Base):
    """What was done to a piece of equipment to keep it as it should be, with what came of it; only ever added to."""

    element_id = TextField()
    day = TextField()
    what = TextField()
    done_by = TextField()
    result = TextField()
    due = TextField(default="")
    note = TextField(default="")
    at = TextField()
    by = TextField()


class FieldEvent(_Base):
    at = TextField()
    actor = TextField()
    kind = TextField()
    element_id = TextField()
    value = TextField(default="")
    note = SaidField(default="")
    hold = TextField(default="")
    node_id = TextField(default="")
    detail = TextField(default="{}")


class Job(_Base):
    number = TextField()
    title = TextField()
    element_id = TextField()
    task_id = TextField()
    task_version = IntegerField(default=0)
    touches = TextField()
    facts = TextField(default="{}")
    justification = TextField(default="none")
    statement = TextField(default="")
    state = TextField(default="open")
    outcome = TextField(default="")
    learnt = TextField(default="")
    circuit_changed = TextField(default="")
    not_planned = TextField(default="")
    plan = TextField(default="{}")
    part_of = TextField(default="")
    as_in = TextField(default="")
    version = IntegerField(default=1)
    requested_by = ForeignKeyField(Person, column_name="requested_by")
    created_at = TextField()
    changed_at = TextField()
    changed_by = TextField()


class TaskVersion(_Base):
    """A version of a task of the site's library. ``like``: the shipped task that its rules come from. ``live``: on the
    list of live tasks."""

    task_id = TextField()
    number = IntegerField()
    like = TextField()
    content = TextField()
    live = IntegerField()
    at = TextField()
    by = TextField()
    because = TextField()


class Permit(_Base):
    number = TextField()
    job = ForeignKeyField(Job, backref="permits")
    state = TextField(default="draft")
    draft = IntegerField(default=1)
    content = TextField()
    content_hash = TextField()
    window_start = TextField()
    window_end = TextField()
    suspended_because = SaidField(default="")
    over = IntegerField(default=0)
    version = IntegerField(default=1)
    requested_by = ForeignKeyField(Person, column_name="requested_by")
    created_at = TextField()
    changed_at = TextField()
    changed_by = TextField()


class PermitRecord(_Base):
    permit = ForeignKeyField(Permit, backref="records")
    kind = TextField()
    person = ForeignKeyField(Person, null=True)
    person_name = TextField()
    content_hash = TextField()
    detail = TextField(default="{}")
    at = TextField()


class Program(_Base):
    number = TextField()
    job = ForeignKeyField(Job, backref="programs")
    purpose = TextField()
    hold = TextField()
    practice = IntegerField(default=0)
    follows = TextField(default="")
    state = TextField(default="draft")
    content = TextField()
    content_hash = TextField()
    origin_event = IntegerField()
    base_event = IntegerField()
    step = IntegerField(default=0)
    director = ForeignKeyField(Person, null=True)
    operator = ForeignKeyField(Person, null=True)
    in_charge = ForeignKeyField(Person, null=True)
    stopped_because = SaidField(default="")
    faults = TextField(default="[]")
    version = IntegerField(default=1)
    requested_by = ForeignKeyField(Person, column_name="requested_by")
    created_at = TextField()
    changed_at = TextField()
    changed_by = TextField()


class ProgramRecord(_Base):
    program = ForeignKeyField(Program, backref="records")
    kind = TextField()
    person = ForeignKeyField(Person, null=True)
    person_name = TextField()
    content_hash = TextField()
    detail = TextField(default="{}")
    at = TextField()


class PracticeEvent(_Base):
    program = ForeignKeyField(Program)
    at = TextField()
    actor = TextField()
    kind = TextField()
    element_id = TextField()
    value = TextField(default="")
    note = SaidField(default="")
    hold = TextField(default="")
    node_id = TextField(default="")
    detail = TextField(default="{}")


class Assessment(_Base):
    """What was asked of several people about a job. ``content``: figures as they were then; ``asked``: ids;
    ``because``: why it was opened before everybody had answered."""

    number = TextField()
    job = ForeignKeyField(Job)
    state = TextField(default="open")
    content = TextField()
    content_hash = TextField()
    asked = TextField()
    because = SaidField(default="")
    agreed = TextField(default="[]")
    agreed_by = TextField(default="")
    agreed_at = TextField(default="")
    requested_by = ForeignKeyField(Person, column_name="requested_by")
    version = IntegerField(default=1)
    changed_at = TextField()
    changed_by = TextField()


class GivenOpinion(_Base):
    """What one person saw, alone; only ever added to."""

    assessment = ForeignKeyField(Assessment)
    person = ForeignKeyField(Person)
    person_name = TextField()
    marks = TextField()
    at = TextField()

    class Meta:
        table_name = "opinion"


class Procedure(_Base):
    """How this site goes about a class of equipment or a piece; only ever added to, the last counts."""

    subject = TextField()
    content = TextField()
    at = TextField()
    by = TextField()
    because = TextField()


class Improvement(_Base):
    """What would lower a risk at its source."""

    number = TextField()
    element_id = TextField()
    content = TextField()
    job = TextField(default="")
    cost = TextField()
    owner_id = IntegerField()
    due = TextField()
    state = TextField(default="proposed")
    because = TextField(default="")
    version = IntegerField(default=1)
    created_at = TextField()
    changed_at = TextField()
    changed_by = TextField()


class StoredStudy(_Base):
    """The content of a study, by its hash; a run and any later one with the same figures share it."""

    hash = TextField(primary_key=True)
    content = TextField()

    class Meta:
        table_name = "study_result"


class StudyRun(_Base):
    """A study that somebody asked for. ``revision``: number of the published network, 0 for a draft, whose document is
    kept here as it was then."""

    number = TextField()
    revision = IntegerField(default=0)
    draft = TextField(default="")
    document_hash = TextField()
    document = TextField(default="")
    ceiling_cal_cm2 = FloatField()
    method = TextField()
    state = TextField(default="asked")
    result_hash = TextField(default="")
    because = TextField(default="")
    asked_at = TextField()
    asked_by = TextField()
    done_at = TextField(default="")
    signed_at = TextField(default="")
    signed_by = TextField(default="")
    licence = TextField(default="")
    version = IntegerField(default=1)


class AssignedFinding(_Base):
    """A finding of studies that somebody was given, by its name, which is the same in every study."""

    number = TextField()
    name = TextField()
    content = TextField()
    owner_id = IntegerField()
    due = TextField()
    state = TextField(default="open")
    closed_in = TextField(default="")
    energy_cal_cm2 = FloatField(null=True)
    note = TextField(default="")
    version = IntegerField(default=1)
    created_at = TextField()
    changed_at = TextField()
    changed_by = TextField()

    class Meta:
        table_name = "finding"


class StoredLabel(_Base):
    """A label that was printed or found on a piece of equipment, and what it says. ``touches``: way of reaching it."""

    number = TextField()
    element_id = TextField()
    touches = TextField()
    origin = TextField()
    state = TextField()
    place = TextField(default="")
    content = TextField()
    content_hash = TextField()
    replaced_by = TextField(default="")
    version = IntegerField(default=1)
    created_at = TextField()
    created_by = TextField()

    class Meta:
        table_name = "label"


class LabelEvent(_Base):
    """What happened to a label; only ever added to."""

    label_id = IntegerField()
    kind = TextField()
    at = TextField()
    by = TextField()
    place = TextField(default="")
    note = TextField(default="")
    picture = TextField(default="")


class EmergencyPlan(_Base):
    """What is done in an emergency at a place; only ever added to, the last counts."""

    location = TextField()
    content = TextField()
    at = TextField()
    by = TextField()


class Gear(_Base):
    """An item of gear. What it is made for is fixed; ``tested``: of the last test that it passed. ``in_service``: of
    its first issue. ``held_for``: number of a job, permit or program, where it was issued for one."""

    number = TextField()
    kind = TextField()
    low_v = FloatField(null=True)
    high_v = FloatField(null=True)
    category = IntegerField(null=True)
    ac = IntegerField(default=0)
    dc = IntegerField(default=0)
    glove_class = TextField(default="")
    arc_rating_cal_cm2 = FloatField(null=True)
    withstand_ka = FloatField(null=True)
    withstand_s = FloatField(null=True)
    size = TextField(default="")
    place = TextField(default="")
    owner = ForeignKeyField(Person, null=True)
    bought = TextField(default="")
    in_service = TextField(default="")
    tested = TextField(default="")
    certificate = TextField(default="")
    holder = ForeignKeyField(Person, null=True)
    held_since = TextField(default="")
    held_for = TextField(default="")
    element_id = TextField(default="")
    barred = SaidField(default="")
    retired = IntegerField(default=0)
    version = IntegerField(default=1)
    changed_at = TextField()
    changed_by = TextField()


class GearEvent(_Base):
    """What happened to an item; only ever added to. ``good``: of a test or an inspection. ``detail``: answers, what it
    was issued for."""

    gear = ForeignKeyField(Gear)
    kind = TextField()
    at = TextField()
    by = TextField()
    day = TextField(default="")
    good = IntegerField(null=True)
    note = SaidField(default="")
    detail = TextField(default="{}")


class Box(_Base):
    """The box of a hold, from its takeover on. ``taken_by``, ``completed_by``: names as they were then."""

    hold = TextField(primary_key=True)
    element_id = TextField()
    in_charge = ForeignKeyField(Person)
    taken_by = TextField()
    taken_at = TextField()
    complete = IntegerField(default=0)
    completed_by = TextField(default="")


class Hung(_Base):
    """A lock, ground, block or personal lock that hangs for a hold, or hung until ``gone_at``.

    ``node_id``: of a ground. ``part``: what is blocked. ``number``: on the lock, or of the paper of ``others``
    who locked it for us. ``unsure``: whether it still hangs is
    not known. ``absent``: the half that is signed of the absent-owner procedure. ``freed``: that is complete.
    """

    hold = TextField()
    kind = TextField()
    element_id = TextField(default="")
    node_id = TextField(default="")
    part = TextField(default="")
    number = TextField(default="")
    person = ForeignKeyField(Person)
    owner = TextField()
    since = TextField()
    practice = IntegerField(default=0)
    unsure = IntegerField(default=0)
    others = TextField(default="")
    freed = IntegerField(default=0)
    absent = TextField(default="")
    gone_at = TextField(null=True)
    gone_by = TextField(default="")


class Ledger(_Base):
    seq = IntegerField(primary_key=True)
    at = TextField()
    actor = TextField()
    act = TextField()
    subject = TextField()
    payload = TextField()
    request_id = TextField(null=True)
    previous_hash = TextField()
    hash = TextField()
    wrote = TextField(null=True)
    mac = TextField(null=True)
