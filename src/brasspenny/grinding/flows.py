"""Doses through grinders and water through filters: kept, and what they say together."""

from __future__ import annotations

from ..act import Act
from ..core.grinding import doses, flow
from ..core.grinding.dials import Dials
from ..devices.sieves import GrinderBody, grind
from ..history import service as history
from ..kit import service as kit
from ..refusals import NotFound, Unprocessable
from ..store.grinding import FilterTest, GrinderDose
from ..store.load_trial import load_dials, load_ground
from ..store.models import KitItem
from ..store.writing import use_case
from . import schemas as s
from . import shapes

NEWEST = 200


def room_of(dials: Dials, items: dict[str, KitItem]) -> dict:
    """The room's parts about doses and filters."""
    rows = _newest(GrinderDose)
    tests = _newest(FilterTest)
    return {
        "doses": [_dose(r, dials) for r in rows],
        "ground": [_ground(dial_id, found, dials) for dial_id, found in load_ground({r.dial_id for r in rows}).items()],
        "filter_tests": [_test(t, items) for t in tests],
        "resistances": _resistances(tests, items),
    }


def _newest(table):
    return list(table.select().where(table.deleted_at.is_null()).order_by(table.at.desc(), table.id).limit(NEWEST))


# --- doses -----------------------------------------------------------------------------------------------------------------------


def as_dose(row: GrinderDose) -> doses.Dose:
    return doses.Dose(row.beans_in_g, row.ground_out_g, row.grinding_s, row.knocked_out_g, row.next_in_g, row.next_out_g, row.feeding)


@use_case
def add_dose(sent: s.DoseBody, act: Act) -> str:
    row = GrinderDose(id=act.new_id(), created_at=act.now, at=act.now, created_by=act.who, **_dose_columns(sent))
    history.add(row, act=act, trial_id=None)
    return row.id


@use_case
def edit_dose(dose_id: str, sent: s.DoseBody, rev: int, act: Act) -> str:
    history.edit(_open(GrinderDose, dose_id, "dose"), _dose_columns(sent), rev=rev, act=act, trial_id=None)
    return dose_id


@use_case
def remove_dose(dose_id: str, act: Act) -> str:
    return history.remove(_open(GrinderDose, dose_id, "dose"), act=act, trial_id=None)


def _dose_columns(sent: s.DoseBody) -> dict:
    if sent.dial_id not in load_dials().sides:
        raise Unprocessable("dial_id", "That is not a grinder with its burrs.", "Choose a burr set, or a grinder that has none.")
    values = sent.model_dump(exclude={"dial_id", "simulated"}) | {"dial": sent.dial_id, "source": "simulated" if sent.simulated else "typed"}
    doses.checked(doses.Dose(**{name: values[name] for name in doses.Dose.__dataclass_fields__}))
    return values


USUAL_MILL = GrinderBody(rate_g_s=1.5, stays_g=0.4)


def simulate_dose(sent: s.SimulatedDoseBody, act: Act) -> s.SimulatedDose:
    """By what this dial's doses say, else of a usual mill."""
    known = load_ground([sent.dial_id]).get(sent.dial_id)
    rate = known.rate_g_s.value if known and known.rate_g_s else USUAL_MILL.rate_g_s
    stays = max(0.0, known.stays_g.value) if known and known.stays_g else USUAL_MILL.stays_g
    return s.SimulatedDose(**vars(grind(GrinderBody(rate, min(stays, sent.beans_in_g)), sent.beans_in_g, act.rng.randrange(2**31))))


def _open(table, row_id: str, what: str):
    row = table.get_or_none((table.id == row_id) & table.deleted_at.is_null())
    if row is None:
        raise NotFound(what)
    return row


def _dose(row: GrinderDose, dials: Dials) -> s.DoseShown:
    dose = as_dose(row)
    name = dials.names.get(row.dial_id, "a grinder that is gone")
    scale = dials.scales.get(name)
    return s.DoseShown(
        id=row.id,
        rev=row.rev,
        dial_id=row.dial_id,
        dial=name,
        setting_written="" if row.setting is None else scale.write(row.setting) if scale else f"{row.setting:g}",
        rate_g_s=dose.rate_g_s,
        stays_g=dose.stays_g,
        **{name: getattr(row, name) for name in DOSE_FIELDS},
    )


DOSE_FIELDS = (
    "setting", "feeding", "beans_in_g", "ground_out_g", "grinding_s", "knocked_out_g", "next_in_g", "next_out_g", "chaff", "mess", "note", "source", "at",
)  # fmt: skip


def _ground(dial_id: str, g: doses.Ground, dials: Dials) -> s.GroundShown:
    def figure(f):
        return shapes.figure(f) if f else None

    return s.GroundShown(
        dial_id=dial_id,
        dial=dials.names.get(dial_id, "a grinder that is gone"),
        rate_g_s=figure(g.rate_g_s),
        stays_g=figure(g.stays_g),
        remains_g=figure(g.remains_g),
        exchange_g=figure(g.exchange_g),
        purge_g=g.purge_g,
        doses=g.doses,
        said=doses.said_of(g),
    )


# --- filters ---------------------------------------------------------------------------------------------------------------------


@use_case
def add_test(sent: s.FilterTestBody, act: Act) -> str:
    item = kit.of_kind("filter_id", sent.filter_id, "filter")
    flow.checked(flow.FlowTest(sent.filter_id, sent.push, sent.size, sent.water_g, sent.seconds))
    if sent.dry_g is not None and sent.wet_g is not None and sent.wet_g < sent.dry_g:
        raise Unprocessable("wet_g", "A wet filter weighs no less than a dry one.", "Weigh it again.")
    values = sent.model_dump(exclude={"filter_id"})
    row = FilterTest(id=act.new_id(), filter=item.id, source="typed", created_at=act.now, at=act.now, created_by=act.who, **values)
    history.add(row, act=act, trial_id=None)
    return row.id


@use_case
def remove_test(test_id: str, act: Act) -> str:
    return history.remove(_open(FilterTest, test_id, "filter test"), act=act, trial_id=None)


def as_test(row: FilterTest) -> flow.FlowTest:
    return flow.FlowTest(row.filter_id, row.push, row.size, row.water_g, row.seconds)


def _test(row: FilterTest, items: dict[str, KitItem]) -> s.FilterTestShown:
    held = None if row.dry_g is None or row.wet_g is None else row.wet_g - row.dry_g
    fields = ("id", "rev", "filter_id", "push", "size", "water_g", "seconds", "dry_g", "wet_g", "sediment", "note", "source", "at")
    name = items[row.filter_id].name if row.filter_id in items else "a filter that is gone"
    return s.FilterTestShown(**{f: getattr(row, f) for f in fields}, filter=name, unit=flow.PUSHED[row.push].unit, held_g=held)


def _resistances(tests: list[FilterTest], items: dict[str, KitItem]) -> list[s.ResistanceShown]:
    """Against the filter tested first: it is the one the others are held to."""
    out = []
    for push in flow.PUSHED:
        mine = [t for t in reversed(tests) if t.push == push and t.filter_id in items]
        if not mine:
            continue
        reference = items[mine[0].filter_id]
        out += [
            s.ResistanceShown(
                filter_id=r.filter_id,
                filter=items[r.filter_id].name,
                reference=reference.name,
                push=r.push,
                relative=shapes.figure(r.relative),
                tests=r.tests,
                proportional=not r.same_size,
            )
            for r in flow.relative([as_test(t) for t in mine], reference.id)
        ]
    return out
