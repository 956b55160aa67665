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
    """headline and judged parts are null before a verdict. method, findings, next: sentences; shared: variables alike in all setups."""

    bench: str
    number: int
    question: str
    made_at: datetime
    headline: str | None
    text: str
    lean: str
    sighted_only: bool
    method: list[str]
    shared: list[str]
    setups: list[ReportSetup]
    judged: list[SetupJudged]
    differences: list[DifferenceShown]
    findings: list[str]
    next: str
    grade: GradeShown | None
    caveats: list[MarginCaveatShown]
    flights: list[ReportFlight]


class VerdictLinkShown(Answer):
    """A link that works; the link itself was shown when it was made, and only then."""

    id: str
    created_at: datetime


class VerdictLinksAnswer(Answer):
    links: list[VerdictLinkShown]


class VerdictLinkMade(Answer):
    id: str
    link: str
