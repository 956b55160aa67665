"""Read-only links to a verdict, for somebody without the bench: shown once when made, kept as a hash, withdrawn at any time."""

from __future__ import annotations

import secrets

from ..act import Act
from ..history import service as history
from ..refusals import Conflict, LinkRefused, NotFound
from ..store import queries
from ..store.models import VerdictLink
from ..store.seen_devices import hash_of_token
from ..store.writing import use_case
from ..trials.service import open_trial
from . import schemas as s
from .service import read_report

TOKEN_BYTES = 16
MOST_LINKS = 20


@use_case
def share(trial_id: str, base: str, query: str, act: Act) -> s.VerdictLinkMade:
    """A new link. There must be something to show: before the first flip a verdict is nothing but the host's guess."""
    trial = open_trial(trial_id)
    if not queries.any_flipped(trial.id):
        raise Conflict("", "There is no verdict to share yet.", "Flip a flight first.")
    if len(links_of(trial_id).links) >= MOST_LINKS:
        raise Conflict("", f"This trial has {MOST_LINKS} links.", "Withdraw one that is not needed any more.")
    token = secrets.token_urlsafe(TOKEN_BYTES)
    link = VerdictLink(id=act.new_id(), trial=trial.id, token_hash=hash_of_token(token), created_at=act.now, created_by=act.who)
    history.add(link, act=act, trial_id=trial.id)
    return s.VerdictLinkMade(id=link.id, link=f"{base}/v/{token}{query}")


def links_of(trial_id: str) -> s.VerdictLinksAnswer:
    rows = VerdictLink.select().where((VerdictLink.trial == open_trial(trial_id).id) & VerdictLink.deleted_at.is_null()).order_by(VerdictLink.created_at)
    return s.VerdictLinksAnswer(links=[s.VerdictLinkShown(id=row.id, created_at=row.created_at) for row in rows])


@use_case
def withdraw(link_id: str, act: Act) -> str:
    link = VerdictLink.get_or_none((VerdictLink.id == link_id) & VerdictLink.deleted_at.is_null())
    if link is None:
        raise NotFound("link")
    return history.remove(link, act=act, trial_id=link.trial_id)


def shown(token: str, act: Act) -> s.ReportAnswer:
    """What the link shows. Raises LinkRefused for one that is not known, was withdrawn, or whose trial is gone."""
    link = VerdictLink.get_or_none((VerdictLink.token_hash == hash_of_token(token)) & VerdictLink.deleted_at.is_null())
    if link is None:
        raise LinkRefused
    try:
        return read_report(link.trial_id, act)
    except NotFound:
        raise LinkRefused from None
