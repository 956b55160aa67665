"""One record adds a brewer kind, a pass or an attribute: nothing else spells its code, in either language."""

import ast
import re

import pytest

from brasspenny.config import PROJECT
from brasspenny.core import vocabulary as v
from brasspenny.core.tasting.sheets import ITEMS

CODES = {record.code for records in (v.BREWER_KINDS, v.PASSES) for record in records}
GENERATED = {"vocabulary.ts", "schema.d.ts"}
SPELT = {
    "core/recipe/spoken.py": {"jug_steep"},  # words of the recipe language that name a brewer
    "core/planning/schedule/solver.py": {"warm", "cool"},  # a cup's limits, not a pass
    "calculators/brew_schemas.py": {"flat_bed"},  # examples in the API's own document
    "calculators/plan_schemas.py": {"flat_bed"},
}


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
