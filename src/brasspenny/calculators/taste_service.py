"""From asked to answered, by the core: calculators about tasting. No database."""

from __future__ import annotations

from ..core.judging.discrimination import discriminate, plan
from . import taste_schemas as s


def judge(asked: s.DiscriminationBody) -> s.DiscriminationAnswer:
    found = discriminate(asked.method, asked.n, asked.correct, alpha=asked.alpha)
    ends = {"distinguishers_interval": list(found.distinguishers_interval), "d_prime_interval": list(found.d_prime_interval)}
    return s.DiscriminationAnswer(**(vars(found) | ends))


def how_many(asked: s.DiscriminationPlanBody) -> s.DiscriminationPlanAnswer:
    return s.DiscriminationPlanAnswer(**vars(plan(asked.method, distinguishers=asked.distinguishers, alpha=asked.alpha, power=asked.power)))
