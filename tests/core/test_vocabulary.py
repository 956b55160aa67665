"""One record adds a brewer kind, a pass or an attribute: nothing else spells its code, in either language."""

import ast
import re
from typing import get_args

import pytest

from brasspenny.config import PROJECT
from brasspenny.core import vocabulary as v
from brasspenny.core.grinding.settings import SCALE_LABELS, ScaleType
from brasspenny.core.tasting.sheets import ITEMS

CODES = {record.code for records in (v.BREWER_KINDS, v.PASSES) for record in records}
GENERATED = {"vocabulary.ts", "schema.d.ts"}
SPELT = {
    "core/recipe/spoken.py": {"jug_steep"},  # words of the recipe language that name a brewer
    "core/planning/schedule/solver.py": {"warm", "cool"},  # a cup's limits, not a pass
    "calculators/brew_schemas.py": {"flat_bed"},  # examples in the API's own document
    "calculators/plan_schemas.py": {"flat_bed"},
}


TYPES = (
    (v.YieldBasis, v.YIELD_BASES),
    (v.Ending, v.ENDINGS),
    (v.PourPattern, v.POUR_PATTERNS),
    (v.BrewerType, v.BREWER_KINDS),
    (v.Factor, v.FACTOR_KINDS),
    (v.MatchingRule, v.MATCHING_RULES),
    (v.MatchKindCode, v.MATCH_KINDS),
    (v.PhotoKind, v.PHOTO_KINDS),
    (v.Feeding, v.FEEDINGS),
    (v.Push, v.PUSHES),
    (v.TableKind, v.TABLE_KINDS),
    (v.Purpose, v.PURPOSES),
    (v.StepKind, v.STEPS),
    (v.FlightMethod, [m for m in v.TEST_METHODS if m.in_flights]),
    (v.DiscriminationMethod, [m for m in v.TEST_METHODS if m.guess_rate is not None]),
    (v.PassName, v.PASSES),
    (v.JudgedPass, v.JUDGED_PASSES),
    (v.AttributeCode, v.ATTRIBUTES),
    (v.Judged, (v.LIKING, *v.ATTRIBUTES)),
    (v.Blinding, v.BLINDINGS),
    (v.AskedBlinding, [b for b in v.BLINDINGS if b.asked]),
)


@pytest.mark.parametrize(("type_", "records"), TYPES)
def test_a_type_lists_the_codes_of_its_records(type_, records):
    """A type checker reads only what is written out, so each list of codes stands beside its records, and this holds them together."""
    assert get_args(type_) == tuple(record.code for record in records)


def test_the_scales_of_a_dial_are_the_options_of_the_kits_fact():
    assert get_args(ScaleType) == tuple(SCALE_LABELS)


def test_python_spells_no_code_outside_the_vocabulary():
    root = PROJECT / "src" / "brasspenny"
    found = {}
    for path in root.rglob("*.py"):
        name = str(path.relative_to(root))
        if name != "core/vocabulary.py" and not name.startswith("demo/"):
            strings = {node.value for node in ast.walk(ast.parse(path.read_text())) if isinstance(node, ast.Constant) and isinstance(node.value, str)}
            found[name] = strings & CODES - SPELT.get(name, set())
    assert {name: codes for name, codes in found.items() if codes} == {}


def test_the_interface_spells_no_code_outside_the_vocabulary():
    sources = [path for path in (PROJECT / "web/src").rglob("*.ts*") if path.name not in GENERATED and path.parent.name != "tests"]
    found = {path.name: set(re.findall(r"'(\w+)'", path.read_text())) & CODES for path in sources}
    assert sources and {name: codes for name, codes in found.items() if codes} == {}


@pytest.mark.parametrize("attribute", v.ATTRIBUTES, ids=lambda a: a.code)
def test_an_attribute_can_be_scored_and_calibrated_by_its_record_alone(attribute):
    assert {attribute.code, f"jar_{attribute.code}"} <= set(ITEMS)
    assert attribute.low < attribute.high and attribute.low_word != attribute.high_word


def test_passes_follow_each_other_as_the_cup_cools():
    limits = [limit for p in v.PASSES for limit in (p.from_c, p.to_c)]
    assert limits == sorted(limits, reverse=True) and v.USUAL_PASS in {p.code for p in v.PASSES}
