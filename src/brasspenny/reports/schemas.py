"""HTTP shape of a trial's report; the print view, the PDF and the Markdown all say this."""

from __future__ import annotations

from datetime import datetime

from ..http import Answer
from ..progress.schemas import GradeShown, MarginCaveatShown
from ..verdicts.schemas import DifferenceShown, SetupJudged
from .dictionary import COLUMNS

SCORE_COLUMNS = tuple(COLUMNS)


class ReportSetup(Answer):
    """What a setup is: those of its variables that not all setups share, in the bars' words."""

    letter: str
    name: str
    variables: list[str]
    price: float | None
    minutes: float | None


class ReportFlight(Answer):
    """commitment: the seal's hash; holds: whether the opened key matches it, null without a seal or before the flip."""

    number: int
    text: str
    commitment: str | None
    key_text: str | None
    holds: bool | None


class ReportAnswer(Answer):
    """headline and judged parts are null before a verdict. method, findings, next: sentences; by_group: liking of each group where drinkers like opposite things, whose averages are then left out; shared: variables alike in all setups."""

    bench: str
    number: int
    question: str
    made_at: datetime
    headline: str | None
    text: str
    lean: str
    method: list[str]
    shared: list[str]
    setups: list[ReportSetup]
    judged: list[SetupJudged]
    by_group: list[str]
    differences: list[DifferenceShown]
    findings: list[str]
    next: str
    grade: GradeShown | None
    caveats: list[MarginCaveatShown]
    flights: list[ReportFlight]


class StatementShown(Answer):
    """about: what it is about, a path, the wider thing first; claim: what is claimed of it; value: in `unit`; interval: of 95 %; probability: that the claim holds; text: the
    sentence, '' of a bare figure; report: listed by the report under what else was found."""

    about: str
    claim: str
    value: int | float | str | list[str] | None
    unit: str
    interval: list[float] | None
    probability: float | None
    text: str
    report: bool


class StatementsAnswer(Answer):
    """In the order of the report. No claim has two values, and none excludes another."""

    statements: list[StatementShown]


class VerdictLinkShown(Answer):
    """A link that works; the link itself was shown when it was made, and only then."""

    id: str
    created_at: datetime


class VerdictLinksAnswer(Answer):
    links: list[VerdictLinkShown]


class VerdictLinkMade(Answer):
    id: str
    link: str
