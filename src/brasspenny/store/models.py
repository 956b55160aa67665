"""The tables. Columns and words are those of the API and the screen; store/migrations makes them."""

from __future__ import annotations

import peewee as pw
from playhouse.mysql_ext import JSONField

from ..core.brewing.observed import Tolerances
from ..core.extraction.uncertainty import USUAL_REPEATABILITY_PCT, Instrument
from ..core.figures import USUAL, Units
from ..core.vocabulary import USUAL_JUDGED_PASS, USUAL_SCATTER_FROM
from .connection import database, own_name
from .fields import CelsiusField, IdField, MassField, PercentField, ScoreField, SecondsField, UtcField


class Table(pw.Model):
    class Meta:
        database = database
        legacy_table_names = False


class Editable(Table):
    """A row people edit: `rev` guards against two at once, deletes are soft."""

    id = IdField(primary_key=True)
    rev = pw.IntegerField(default=1)
    created_at = UtcField()
    deleted_at = UtcField(null=True)


class Bench(Table):
    """One row: the bench's name, its instruments and place, its passphrase (argon2 hash). made_up: a demo's data, which nothing is learnt from."""

    id = pw.SmallIntegerField(primary_key=True)
    name = pw.CharField(120)
    accuracy_pct = PercentField()
    resolution_pct = PercentField()
    repeatability_pct = PercentField(default=USUAL_REPEATABILITY_PCT)
    scale_resolution_g = MassField()
    altitude_m = pw.IntegerField(default=0)
    ambient_c = CelsiusField(default=21.0)
    tolerance_g = MassField(default=2.0)
    tolerance_pct = PercentField(default=1.0)
    tolerance_s = SecondsField(default=5.0)
    tolerance_c = CelsiusField(default=1.0)
    brix_factor = PercentField(default=0.85)
    scale_address = pw.CharField(60, default="")
    kit_lasts_years = ScoreField(default=5.0)
    cups_a_day = ScoreField(default=2.0)
    heat_unit = pw.CharField(1, default="C")
    ratio_unit = pw.CharField(8, default="to_one")
    bag_unit = pw.CharField(2, default="g")
    currency = pw.CharField(4, default="")
    made_up = pw.BooleanField(default=False)
    passphrase_hash = pw.CharField(255, null=True)
    secret = pw.CharField(128, null=True)
    rev = pw.IntegerField(default=1)


def instrument_of(bench: Bench) -> Instrument:
    """The bench's refractometer and scale."""
    return Instrument(bench.accuracy_pct, bench.resolution_pct, bench.scale_resolution_g, bench.repeatability_pct)


def units_of_bench() -> Units:
    """How this bench has its figures told: its own choice, also in the sample beside it."""
    row = database.execute_sql(f"SELECT heat_unit, ratio_unit, bag_unit, currency FROM `{own_name()}`.bench WHERE id = 1").fetchone()
    return Units(*row) if row else USUAL


def tolerances_of(bench: Bench) -> Tolerances:
    return Tolerances(bench.tolerance_g, bench.tolerance_pct, bench.tolerance_s, bench.tolerance_c)


class Person(Editable):
    name = pw.CharField(80)


class KitItem(Editable):
    """A thing setups are made of. facts: those of its kind (kit/facts.py). Once used by a setup it is retired, never deleted.
    brewer_type is set for brewers only."""

    kind = pw.CharField(16)
    name = pw.CharField(120)
    brewer_type = pw.CharField(24, null=True)
    facts = JSONField(default=dict)
    retired_at = UtcField(null=True)


class StockEntry(Editable):
    """Coffee bought (+) or lost (−), g; what runs use is taken from their doses."""

    kit_item = pw.ForeignKeyField(KitItem, backref="stock")
    mass_g = MassField()
    note = pw.CharField(120, default="")
    at = UtcField()


class MatchedSetting(Editable):
    """a at a_setting grinds like b at b_setting; a and b are burr sets, or grinders without one. rests_on: of a match made from sieve samples, their ids by side and
    the half-widths they leave on either dial: {"a", "b": [ids], "a_spread", "b_spread": number or null}."""

    a = pw.ForeignKeyField(KitItem, backref="+")
    a_setting = MassField()
    b = pw.ForeignKeyField(KitItem, backref="+")
    b_setting = MassField()
    match_kind = pw.CharField(16)
    matched_on = pw.DateField(null=True)
    note = pw.CharField(200, default="")
    rests_on = JSONField(null=True)


class Recipe(Editable):
    """A recipe by name; version_id: the newest."""

    name = pw.CharField(120)
    version_id = pw.CharField(12, null=True)
    created_by = pw.CharField(12, null=True)


class RecipeVersion(Table):
    """Immutable: old results keep pointing at the version they used. errors: lint errors; above nought it is a draft."""

    id = IdField(primary_key=True)
    recipe = pw.ForeignKeyField(Recipe, backref="versions")
    number = pw.IntegerField()
    document = JSONField()
    errors = pw.IntegerField(default=0)
    note = pw.CharField(200, default="")
    created_at = UtcField()
    created_by = pw.CharField(12, null=True)


class Trial(Editable):
    """brought_in_at, brought_in_from: when it came in by a file, and the name of the bench it was done on."""

    number = pw.IntegerField(unique=True)
    question = pw.CharField(200)
    factor = pw.CharField(24)
    factor_other = pw.CharField(80, default="")
    further_factors = JSONField(default=list)
    yield_basis = pw.CharField(16, null=True)
    strength_policy = pw.CharField(16)
    smallest_difference = ScoreField()
    judged_pass = pw.CharField(8, default=USUAL_JUDGED_PASS)
    scatter_from = pw.CharField(8, default=USUAL_SCATTER_FROM)
    note = pw.CharField(2000, default="")
    tags = JSONField(default=list)
    archived_at = UtcField(null=True)
    brought_in_at = UtcField(null=True)
    brought_in_from = pw.CharField(120, default="")
    created_by = pw.CharField(12, null=True)


class Declaration(Table):
    """A difference that is known and meant, with the rule it follows."""

    id = IdField(primary_key=True)
    trial = pw.ForeignKeyField(Trial, backref="declarations")
    field = pw.CharField(24)
    rule = pw.CharField(24)
    reason = pw.CharField(200, default="")
    created_at = UtcField()


class Setup(Editable):
    """What a brew is made to. Without a trial: of a loose run. brews_given, dial_ins_given: the highest number ever on a label; none is
    given twice."""

    trial = pw.ForeignKeyField(Trial, backref="setups", null=True)
    letter = pw.FixedCharField(1)
    name = pw.CharField(80)
    revision_id = pw.CharField(12, null=True)
    brews_given = pw.IntegerField(default=0)
    dial_ins_given = pw.IntegerField(default=0)


class SetupRevision(Table):
    """Immutable: what a run was brewed to. Names, facts of the kit and the recipe's steps are copied, so that changing them later never changes the past."""

    id = IdField(primary_key=True)
    setup = pw.ForeignKeyField(Setup, backref="revisions")
    number = pw.IntegerField()
    coffee = pw.CharField(120, default="")
    grinder = pw.CharField(120, default="")
    grind_setting = pw.CharField(40, default="")
    filter = pw.CharField(120, default="")
    brewer = pw.CharField(120, default="")
    brewer_type = pw.CharField(24, null=True)
    water = pw.CharField(120, default="")
    temperature_c = CelsiusField(null=True)
    dose_g = MassField()
    brew_water_g = MassField()
    bypass_g = MassField()
    pours = pw.CharField(300, default="")
    other = pw.CharField(120, default="")
    recipe_version_id = pw.CharField(12, null=True)
    recipe = JSONField(null=True)
    kit = JSONField(null=True)
    created_at = UtcField()


class UsedKit(Table):
    """Which kit a setup revision is made of."""

    setup_revision = pw.ForeignKeyField(SetupRevision, backref="used_kit")
    kit_item = pw.ForeignKeyField(KitItem, backref="uses")

    class Meta:
        primary_key = pw.CompositeKey("setup_revision", "kit_item")


class Run(Editable):
    """One brew of one setup revision. purpose: evidence, dial_in (shows that a setup is ready, and proves nothing), or loose (of
    no trial). observed: what was seen; marked: its steps as they were marked; off_plan: what else was off plan, in words; protocol: how it was read; served: after
    dilution; curve: [s, g] of the scale; liked: how it was liked, in sight of its label. tags,
    archived_at: how it is found again; neither touches a result."""

    trial = pw.ForeignKeyField(Trial, backref="runs", null=True)
    setup = pw.ForeignKeyField(Setup, backref="runs")
    setup_revision = pw.ForeignKeyField(SetupRevision, backref="runs")
    number = pw.IntegerField()
    brewed_at = UtcField()
    dose_g = MassField()
    brew_water_g = MassField(null=True)
    bypass_g = MassField()
    beverage_g = MassField(null=True)
    temperature_c = CelsiusField(null=True)
    pour_end_s = SecondsField(null=True)
    total_time_s = SecondsField(null=True)
    moisture_pct = PercentField()
    concentrate = pw.BooleanField(default=False)
    purpose = pw.CharField(12, default="evidence")
    note = pw.CharField(500, default="")
    observed = JSONField(default=dict)
    off_plan = JSONField(default=list)
    marked = JSONField(default=list)
    protocol = JSONField(null=True)
    served = JSONField(null=True)
    curve = JSONField(null=True)
    liked = JSONField(null=True)
    tags = JSONField(default=list)
    archived_at = UtcField(null=True)
    created_by = pw.CharField(12, null=True)

    @property
    def has_curve(self) -> bool:
        return self.curve is not None


class Photo(Editable):
    """A picture of a brew, JPEG; it is added and taken away, never changed."""

    run = pw.ForeignKeyField(Run, backref="photos")
    kind = pw.CharField(8)
    media_type = pw.CharField(20)
    image = pw.BlobField()
    width = pw.IntegerField()
    height = pw.IntegerField()
    created_by = pw.CharField(12, null=True)


class VerdictLink(Editable):
    """A read-only link to a trial's verdict, by the hash of its token."""

    trial = pw.ForeignKeyField(Trial, backref="verdict_links")
    token_hash = pw.FixedCharField(64, unique=True)
    created_by = pw.CharField(12, null=True)


class Plan(Editable):
    """How a trial is to be done. design: kind and factor levels, null until one is laid out; day: resources of the run sheet."""

    trial = pw.ForeignKeyField(Trial, backref="plans", unique=True)
    design = JSONField(null=True)
    replicates = pw.IntegerField()
    flights = pw.IntegerField()
    tasters = pw.IntegerField()
    blocking = pw.CharField(12)
    block_factor = pw.CharField(24, default="")
    seed = pw.IntegerField()
    share_drunk = ScoreField()
    dial_in_brews = pw.IntegerField()
    sieve_samples = pw.IntegerField()
    sieve_sample_g = MassField(default=10.0)
    day = JSONField(default=dict)
    drafted = JSONField(null=True)


class RunSheet(Editable):
    """A day's schedule as it was asked for and found; begun: brew → seconds after begins_at at which it really began."""

    trial = pw.ForeignKeyField(Trial, backref="run_sheets")
    begins_at = UtcField()
    asked = JSONField()
    found = JSONField()
    begun = JSONField(default=dict)
    planned_at = UtcField()


class Reading(Editable):
    run = pw.ForeignKeyField(Run, backref="readings")
    tds_pct = PercentField()
    source = pw.CharField(12)
    as_read = JSONField(null=True)
    taken_at = UtcField()
    created_by = pw.CharField(12, null=True)


class InstrumentCheck(Editable):
    """A refractometer against a liquid of known strength: what it then read too much is taken off later readings."""

    checked_at = UtcField()
    reference_pct = PercentField()
    read_pct = PercentField()
    note = pw.CharField(200, default="")
    created_by = pw.CharField(12, null=True)


class Flight(Editable):
    """cup_readings: one temperature for all cups, °C, at its time. blinding: shuffle, runner or open. status: open (being tasted),
    closed (scores locked), flipped (key known). passes asked, "" in flights older than passes; opened: pass → when by hand.
    options: tasting/schemas.FlightOptions. host_tastes: once true, always. shuffled_at: when somebody said that the servers were."""

    trial = pw.ForeignKeyField(Trial, backref="flights")
    number = pw.IntegerField()
    blinding = pw.CharField(12)
    status = pw.CharField(12)
    attributes = JSONField()
    cup_temperature_c = CelsiusField(null=True)
    cup_readings = JSONField(default=list)
    method = pw.CharField(12, default="scores")
    passes = JSONField(default=lambda: [""])
    opened = JSONField(default=dict)
    options = JSONField(default=dict)
    host_tastes = pw.BooleanField(default=False)
    shuffled_at = UtcField(null=True)
    closed_at = UtcField(null=True)
    flipped_at = UtcField(null=True)
    created_by = pw.CharField(12, null=True)


class FlightBrew(Table):
    """A brew in a round of the flight and the mark on its server; a brew poured twice has two marks. Says nothing of codes."""

    id = IdField(primary_key=True)
    flight = pw.ForeignKeyField(Flight, backref="brews")
    run = pw.ForeignKeyField(Run, backref="flight_brews")
    mark = pw.IntegerField()
    round_no = pw.IntegerField(default=1)


class FlightCup(Table):
    """A code. run and mark stay empty in a blind flight until the flip: the program cannot leak what it does not know."""

    id = IdField(primary_key=True)
    flight = pw.ForeignKeyField(Flight, backref="cups")
    code = pw.FixedCharField(3)
    run = pw.ForeignKeyField(Run, null=True, backref="cups")
    mark = pw.IntegerField(null=True)
    round_no = pw.IntegerField(default=1)


class Seal(Table):
    """A runner's key, locked under the token of their one-time link, and the hash shown before tasting. nonce: once opened or broken."""

    flight = pw.ForeignKeyField(Flight, primary_key=True, backref="seals")
    commitment = pw.FixedCharField(64)
    token_hash = pw.FixedCharField(64, unique=True)
    locked_key = pw.TextField()
    device_hash = pw.FixedCharField(64, null=True)
    opened_at = UtcField(null=True)
    seen_by_host_at = UtcField(null=True)
    broken_at = UtcField(null=True)
    nonce = pw.FixedCharField(64, null=True)


class Sheet(Table):
    """One taster's sheet in one flight. Only the hash of the link's token is kept; issue goes up with each new link."""

    id = IdField(primary_key=True)
    flight = pw.ForeignKeyField(Flight, backref="sheets")
    person = pw.ForeignKeyField(Person, backref="sheets")
    issue = pw.IntegerField(default=1)
    token_hash = pw.FixedCharField(64, unique=True)
    revoked_at = UtcField(null=True)
    late = pw.BooleanField(default=False)
    left_at = UtcField(null=True)
    created_at = UtcField()


class SheetCup(Table):
    """The taster's own order."""

    id = IdField(primary_key=True)
    sheet = pw.ForeignKeyField(Sheet, backref="order")
    cup = pw.ForeignKeyField(FlightCup)
    position = pw.IntegerField()


class Score(Table):
    """The newest value of one attribute of one cup in one pass on one sheet: (seq, uuid) orders the writes; replays change nothing.
    value is empty when the taster cleared it; text is for words, a guessed letter, and the codes picked in a round."""

    id = IdField(primary_key=True)
    sheet = pw.ForeignKeyField(Sheet, backref="scores")
    cup = pw.ForeignKeyField(FlightCup, backref="scores")
    attribute = pw.CharField(24)
    pass_name = pw.CharField(8, default="")
    value = ScoreField(null=True)
    text = pw.CharField(500, default="")
    uuid = pw.FixedCharField(36)
    seq = pw.IntegerField()
    received_at = UtcField()


class LateScore(Table):
    """What arrived after the lock: kept and shown apart, never judged."""

    id = IdField(primary_key=True)
    sheet = pw.ForeignKeyField(Sheet, backref="late_scores")
    cup = pw.ForeignKeyField(FlightCup, backref="late_scores")
    attribute = pw.CharField(24)
    pass_name = pw.CharField(8, default="")
    value = ScoreField(null=True)
    text = pw.CharField(500, default="")
    uuid = pw.FixedCharField(36, unique=True)
    seq = pw.IntegerField()
    received_at = UtcField()


class Event(Table):
    """Something to look at in a flight: what server-sent events are made of. Says that, never what."""

    id = pw.BigAutoField()
    flight = pw.ForeignKeyField(Flight, backref="events")
    kind = pw.CharField(12)
    at = UtcField()


class LiveBrew(Editable):
    """A brew while it is made: its plan, its clock and what was marked. Any process or device can go on with it. grind: what a simulated one is ground to, by samples of its
    dial: {median_um, log_sd}. begins_after_s: from when it was prepared until the simulated
    hand begins by itself; null: it waits for a key, or for what a real scale says."""

    trial = pw.ForeignKeyField(Trial, backref="live_brews", null=True)
    setup = pw.ForeignKeyField(Setup, backref="live_brews")
    document = JSONField()
    instrument = pw.CharField(12)
    speed = pw.IntegerField()
    mistake = pw.CharField(16, default="")
    seed = pw.IntegerField()
    begins_after_s = pw.DoubleField(null=True)
    started_at = UtcField(null=True)
    marks = JSONField()
    grind = JSONField(null=True)
    finished_at = UtcField(null=True)
    run_id = pw.CharField(12, null=True)
    created_by = pw.CharField(12, null=True)


class LiveReading(Table):
    """What a real scale said while a brew was made, in batches as they came: [seconds since the epoch, g]."""

    id = pw.BigAutoField()
    live_brew = pw.ForeignKeyField(LiveBrew, backref="readings")
    number = pw.IntegerField()
    points = JSONField()


class StoredVerdict(Table):
    """A judgement with what it was paired with. Never overwritten: a correction adds another."""

    id = IdField(primary_key=True)
    trial = pw.ForeignKeyField(Trial, backref="verdicts")
    sighted = pw.BooleanField()
    data_hash = pw.FixedCharField(64)
    headline = pw.CharField(600)
    payload = JSONField()
    judged_at = UtcField()


class LearntScatter(Table):
    """What earlier panels said of the scatter of likings in these passes, when this trial was first judged: it stays what it was then."""

    trial = pw.ForeignKeyField(Trial, backref="+")
    passes = pw.CharField(80)
    flights = pw.IntegerField()
    cups = pw.IntegerField()
    log_likelihood = pw.TextField()
    at = UtcField()

    class Meta:
        primary_key = pw.CompositeKey("trial", "passes")


class Kept(Table):
    """What takes a moment to work out, by owner (a trial, or "bench") and layer, as long as what it rests on has this hash."""

    owner = IdField()
    layer = pw.CharField(60)
    data_hash = pw.FixedCharField(64)
    payload = JSONField()
    at = UtcField()

    class Meta:
        primary_key = pw.CompositeKey("owner", "layer")


class Headline(Table):
    """A trial's headline for the lists. stamp: of the trial and the bench when it was worked out; another stamp asks again. kept: letters of setups to keep; leans: of the one to brew meanwhile."""

    trial = pw.ForeignKeyField(Trial, primary_key=True, backref="+")
    stamp = pw.CharField(60)
    text = pw.CharField(700, null=True)
    kept = pw.CharField(24, default="")
    leans = pw.CharField(1, default="")


class Charted(Table):
    """What a brew comes to, as the charts draw it. worked_out_by: of which core and instruments, "" once something it rests on was written (store/charted.py); point: its figures as a
    JSON list, in the order of charts/kept.FIELDS."""

    run = pw.ForeignKeyField(Run, primary_key=True, backref="+")
    worked_out_by = pw.FixedCharField(16, default="")
    brewed_at = UtcField(null=True)
    purpose = pw.CharField(12, default="")
    coffee = pw.CharField(120, default="")
    grinder = pw.CharField(120, default="")
    brewer = pw.CharField(120, default="")
    recipe = pw.FixedCharField(12, default="")
    point = pw.TextField(null=True)


class ImportMapping(Table):
    """How a table of brews with these headings was read last."""

    headers_hash = pw.FixedCharField(64, primary_key=True)
    meanings = JSONField()
    at = UtcField()


class Change(Table):
    """Who changed what, when, from what to what, and which change it undoes. elsewhere: done on another bench; it is read and never undone."""

    id = IdField(primary_key=True)
    trial_id = pw.CharField(12, null=True)
    entity = pw.CharField(24)
    entity_id = pw.CharField(12)
    action = pw.CharField(24)
    before = JSONField(null=True)
    after = JSONField(null=True)
    who = pw.CharField(12, null=True)
    at = UtcField()
    undoes = pw.CharField(12, null=True)
    elsewhere = pw.BooleanField(default=False)


class DamagedRow(Table):
    """A row that no room would take, and the unit that was set aside for it: whatever of that unit can be deleted has deleted_at = set_aside_at. column: "" where its rows do not fit
    together. was: the value taken out of a row that had to stay, or the whole of a row that had to go, as JSON."""

    id = IdField(primary_key=True)
    unit_kind = pw.CharField(24)
    unit_id = IdField()
    name = pw.CharField(300)
    kind = pw.CharField(24)
    row_key = pw.CharField(120)
    column = pw.CharField(40)
    why = pw.CharField(300)
    was = pw.TextField(null=True)
    set_aside_at = UtcField()


ALL = (
    Bench,
    Person,
    KitItem,
    StockEntry,
    MatchedSetting,
    Recipe,
    RecipeVersion,
    Trial,
    Declaration,
    Setup,
    SetupRevision,
    UsedKit,
    Run,
    Photo,
    VerdictLink,
    Plan,
    RunSheet,
    Reading,
    InstrumentCheck,
    Flight,
    FlightBrew,
    FlightCup,
    Seal,
    Sheet,
    SheetCup,
    Score,
    LateScore,
    Event,
    LiveBrew,
    LiveReading,
    StoredVerdict,
    LearntScatter,
    Kept,
    Headline,
    Charted,
    ImportMapping,
    Change,
    DamagedRow,
)
