"""The glossary: each term once, every one that a screen asks for there, and none that nobody could look up."""

import re

from brasspenny.config import PROJECT
from brasspenny.core.glossary import GLOSSARY


def test_each_term_is_said_once_and_in_whole_sentences():
    for names in ([t.code for t in GLOSSARY], [t.label for t in GLOSSARY], [t.meaning for t in GLOSSARY]):
        assert len(set(names)) == len(names)
    for term in GLOSSARY:
        assert re.fullmatch(r"[A-Z0-9].*[.?]", term.meaning) and 20 < len(term.meaning) < 420, term.code


def test_what_screens_point_at_is_there():
    asked = {m for path in (PROJECT / "web/src").rglob("*.tsx") for m in re.findall(r"<Term of=\"(\w+)\"", path.read_text())}
    assert len(asked) > 8 and asked <= {t.code for t in GLOSSARY}
