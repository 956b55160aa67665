"""A card, read from what the kit, the Grind room, brews and verdicts hold. Reads only."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from ..core import figures
from ..core.extraction.yields import YIELD_BASIS_LABELS
from ..core.grinding import flow
from ..core.grinding.dials import Dials
from ..core.grinding.doses import Ground
from ..core.grinding.samples import Line, Sampled, compare, taken_together
from ..core.grinding.sieve import IN_BAND_NOTE, Figure
from ..core.judging.value import kit_a_cup
from ..core.kit import learnt
from ..core.trial.measured import measure_run
from ..grinding import flows
from ..grinding import service as grinding
from ..grinding.known import dial_words, lines_of, live_samples
from ..grinding.schemas import BandQuery
from ..kit import service as kit
from ..kit.worked import MOST_BREWS, brewer_yield_basis
from ..refusals import NotFound
from ..store import queries
from ..store.grinding import FilterTest, GrinderDose
from ..store.load_trial import as_sample, load_dials, load_ground
from ..store.models import Bench, KitItem, MatchedSetting, instrument_of
from . import schemas as s
from .rivals import trials_of

KINDS = ("grinder", "burr_set", "brewer", "filter")


def read_card(item_id: str) -> s.KitCard:
    item = kit.open_item(item_id)
    if item.kind not in KINDS:
        raise NotFound("card")
    dials = load_dials()
    body: dict = {"matches": [], "parts": {}, "sampled": "", "in_band_note": ""}
    match item.kind:
        case "brewer":
            lines = list(_brewer(item))
        case "filter":
            lines = list(_filter(item))
        case _:
            lines, body = _grinder(item, dials)
    known = [x for x in lines if x.said]
    return s.KitCard(
        id=item.id,
        kind=item.kind,
        name=dials.names.get(item.id, item.name),
        lines=known,
        unknown=[f"{x.label}: {x.note}" for x in lines if not x.said],
        trials=trials_of(item),
        brews=queries.uses_of(item.id)[1],
        **body,
    )


def _line(label: str, said: str, note: str = "") -> s.CardLine:
    return s.CardLine(label=label, said=said, note=note)


def _between(f: Figure, told: Callable[[float], str], unit: str) -> str:
    low, high = f.interval
    return f"{told(f.value)} {unit} ({told(max(0.0, low))} to {told(high)})"


# --- grinders --------------------------------------------------------------------------------------------------------------------


def _grinder(item: KitItem, dials: Dials) -> tuple[list[s.CardLine], dict]:
    parts = {p.id: dials.names[p.id] for p in dials.parts if p.facts.get("grinder_id") == item.id}
    samples = [as_sample(r) for r in live_samples() if r.source != "simulated"]
    band = grinding.band_of(BandQuery(), samples)
    groups = taken_together(samples, band)
    mine = [g for g in groups if g.grind.dial_id == item.id]
    line = lines_of(groups, dials).get(item.id)
    ground = load_ground([item.id]).get(item.id)
    lines = [*_sieved(mine, groups, item.id, dials, line, band), *_ground(item, ground), *_price(item)]
    if parts:
        lines = [x for x in lines if x.said]  # with burr sets, what is unknown here is known of them
    matches = [p.words() for p in dials.pairs if item.id in dials.sides and dials.names[item.id] in (p.a, p.b)]
    return lines, {"matches": matches, "parts": parts, "sampled": mine[0].samples[0].id if mine else "", "in_band_note": IN_BAND_NOTE if mine else ""}


def _sieved(mine: list[Sampled], groups: list[Sampled], dial_id: str, dials: Dials, line: Line | None, band: tuple[float, float]) -> Iterator[s.CardLine]:
    yield from _at_matched_median(mine, groups, dial_id, dials, band)
    located = [g for g in mine if g.d50_um is not None]
    said = "; ".join(f"{dial_words(dials, dial_id, g.grind.setting)[1]}: {figures.um(g.d50_um)} µm" for g in located)
    yield _line("Median by setting", said, "take sieve samples" if not said else f"{sum(len(g.samples) for g in located)} samples")
    fines = [g.figure("fines") for g in mine if g.holds_band and g.figure("fines")]
    span = sorted(100 * f.value for f in fines)
    yield _line(
        "Fines",
        f"{figures.grind_share(span[0])} to {figures.grind_share(span[-1])} %" if span else "",
        f"finer than {band[0]:g} µm, over the settings sampled" if span else "take sieve samples",
    )
    step = line.per_step if line else None
    yield _line(
        "One step of the dial", _between(step, figures.um, "µm") if step else "", "sample a second setting" if not step else f"by {line.count} settings"
    )


def _at_matched_median(mine: list[Sampled], groups: list[Sampled], dial_id: str, dials: Dials, band) -> Iterator[s.CardLine]:
    """In-band share against every grinder matched by samples, the newest match of each."""
    rows = MatchedSetting.select().where(
        MatchedSetting.deleted_at.is_null() & MatchedSetting.rests_on.is_null(False) & ((MatchedSetting.a == dial_id) | (MatchedSetting.b == dial_id))
    )
    by_sample = {x.id: g for g in groups for x in g.samples}
    seen = set()
    for match in rows.order_by(MatchedSetting.created_at.desc(), MatchedSetting.id):
        sides = {match.a_id: match.rests_on["a"], match.b_id: match.rests_on["b"]} if match.rests_on else {}
        other = next((d for d in sides if d != dial_id), None)
        if other is None or other in seen:
            continue
        here, there = (next((by_sample[i] for i in sides[d] if i in by_sample), None) for d in (dial_id, other))
        if here is None or there is None:
            continue
        seen.add(other)
        change = compare(there, here).changes.get("in_band")
        if change:
            low, high = (figures.signed(x, figures.grind_share) for x in change.points.interval)
            more = figures.signed(change.points.value, figures.grind_share)
            said = f"{figures.grind_share(100 * here.pooled['in_band'].value)} %, {more} points ({low} to {high}) against {dials.names.get(other, '?')}"
            yield _line("In band at a matched median", said, f"{band[0]:g} to {band[1]:g} µm, both at {figures.um(here.d50_um)} µm")
    if mine and not seen:
        yield _line("In band at a matched median", "", "match it to another grinder by samples")


def _ground(item: KitItem, ground: Ground | None) -> Iterator[s.CardLine]:
    note = f"{ground.doses} doses" if ground else "time and weigh a dose"
    yield _line(
        "Speed",
        _between(ground.rate_g_s, figures.grind_rate, "g/s") if ground and ground.rate_g_s else "",
        note if ground and ground.rate_g_s else "time a dose",
    )
    yield _line("Stays inside", _between(ground.stays_g, figures.grams_fine, "g") if ground and ground.stays_g else "", note)
    purge = ground.purge_g if ground else None
    yield _line("Purge before another coffee", f"{figures.grams_fine(purge)} g" if purge is not None else "", note)
    rows = list(GrinderDose.select().where((GrinderDose.dial == item.id) & GrinderDose.deleted_at.is_null()))
    for name, label in (("chaff", "Chaff"), ("mess", "Mess")):
        known = [getattr(r, name) for r in rows if getattr(r, name) is not None]
        yield _line(label, f"{figures.of_five(sum(known) / len(known))} of 5" if known else "", f"{len(known)} doses" if known else "say it with a dose")


def _price(item: KitItem) -> Iterator[s.CardLine]:
    whole = KitItem.get_or_none(KitItem.id == item.facts.get("grinder_id", "")) if item.kind == "burr_set" else item
    prices = [k.facts.get("price") for k in ({item.id: item} | ({whole.id: whole} if whole else {})).values()]
    known = sum(p for p in prices if p)
    bench = Bench.get_by_id(1)
    a_cup = kit_a_cup(known, years=bench.kit_lasts_years, cups_a_day=bench.cups_a_day)
    note = f"{figures.price(a_cup)} a cup over {bench.kit_lasts_years:g} years at {bench.cups_a_day:g} cups a day" if known else "enter it in Kit"
    yield _line("Price", figures.price(known) if known else "", note)


# --- brewers ---------------------------------------------------------------------------------------------------------------------


def _real_brews(item: KitItem):
    return [(run, readings) for run, readings in queries.brews_with([item.id], limit=MOST_BREWS)[item.id] if not run.observed.get("simulated")]


def _brewer(item: KitItem) -> Iterator[s.CardLine]:
    brews = _real_brews(item)
    runs = [run for run, _ in brews]
    drip = learnt.times_of(r.observed.get("first_drip_s") for r in runs)
    yield _line("First drip", drip.said() if drip else "", f"{drip.brews} brews" if drip else "press the key at the first drip")
    drawn = learnt.times_of(r.total_time_s - r.pour_end_s if r.total_time_s and r.pour_end_s is not None else None for r in runs)
    yield _line("Drawdown", drawn.said() if drawn else "", f"from the last water to the end, {drawn.brews} brews" if drawn else "log when the pour ended")
    whole = learnt.times_of(r.total_time_s for r in runs)
    yield _line("Whole brew", whole.said() if whole else "", f"{whole.brews} brews" if whole else "log a time")
    low, high = item.facts.get("dose_low_g"), item.facts.get("dose_high_g")
    used = sorted(r.dose_g for r in runs)
    note = f"used from {used[0]:g} to {used[-1]:g} g" if used else ""
    yield _line("Works with", f"{low:g} to {high:g} g" if low and high else "", note or "enter it in Kit")
    yield_basis, own = brewer_yield_basis(item), instrument_of(Bench.get_by_id(1))
    yields = [(run.setup_revision_id, y.value) for run, readings in brews if (y := measure_run(run, readings, own, run.setup_revision).yield_in(yield_basis))]
    scatter = learnt.scatter_within(yields)
    note = f"{YIELD_BASIS_LABELS[yield_basis]}, {scatter.brews} brews of {scatter.setups} setups" if scatter else "read two brews of one setup"
    yield _line("From brew to brew", learnt.scatter_said(scatter) if scatter else "", note)
    yield from _price(item)


# --- filters ---------------------------------------------------------------------------------------------------------------------


def _filter(item: KitItem) -> Iterator[s.CardLine]:
    tests = list(FilterTest.select().where(FilterTest.deleted_at.is_null()))
    mine = [t for t in tests if t.filter_id == item.id]
    for push, record in flow.PUSHED.items():
        timed = learnt.times_of(t.seconds for t in mine if t.push == push)
        if timed:
            first = next(t for t in mine if t.push == push)
            yield _line(record.label, timed.said(), f"{first.water_g:g} g at {first.size:g} {record.unit}, {timed.brews} tests")
    if not mine:
        yield _line("Time through it", "", "test it in the Grind room")
    brews = _real_brews(item)
    yield from _held_back(item, [flows.as_test(t) for t in tests])
    drawn = learnt.times_of(r.total_time_s - r.pour_end_s if r.total_time_s and r.pour_end_s is not None else None for r, _ in brews)
    yield _line("Drawdown", drawn.said() if drawn else "", f"{drawn.brews} brews, with the bed above it" if drawn else "log when the pour ended")
    held = [t.wet_g - t.dry_g for t in mine if t.wet_g is not None and t.dry_g is not None]
    yield _line(
        "Holds, wet", f"{figures.grams_fine(sum(held) / len(held))} g of water" if held else "", f"{len(held)} tests" if held else "weigh it dry and wet"
    )
    grit = [t.sediment for t in mine if t.sediment is not None]
    yield _line("Sediment", f"{figures.of_five(sum(grit) / len(grit))} of 5" if grit else "", f"{len(grit)} tests" if grit else "say it with a test")
    each = item.facts.get("price_each")
    yield _line("Price", f"{figures.price(each)} each" if each is not None else "", "" if each is not None else "enter it in Kit")


def _held_back(item: KitItem, tests: list[flow.FlowTest]) -> Iterator[s.CardLine]:
    """Against every other filter pushed in the same way, presses logged with brews among them."""
    filters = {k.id: k for k in kit.live_items() if k.kind == "filter"}
    pressed = [
        flow.FlowTest(filter_id, "force", run.observed["press_kg"] * learnt.NEWTON_PER_KG, run.beverage_g, run.observed["press_s"])
        for filter_id, brews in queries.brews_with(list(filters), limit=MOST_BREWS).items()
        for run, _ in brews
        if run.observed.get("press_kg") and run.observed.get("press_s") and run.beverage_g and not run.observed.get("simulated")
    ]
    every = [t for t in tests if t.filter_id in filters] + pressed
    seen = False
    for other in filters.values():
        for r in flow.relative(every, other.id):
            if r.filter_id == item.id:
                seen = True
                times, low, high = (figures.how_many_times(x) for x in (r.relative.value, *r.relative.interval))
                yield _line(f"Holds back, against {other.name}", f"{times} × ({low} to {high})", f"{flow.PUSHED[r.push].how}, {r.tests} times")
    if not seen:
        yield _line("Holds back", "", "test two filters alike, or log a press with its force")
