from . import test_damaged_rows as t

t.CHOSEN = [
    d
    for d in t.ALL_DAMAGES
    if d.table in ("learnt_scatter", "filter_test", "grinder_dose", "sieve_sample")
    or d.table.startswith("palate")
    and d.column in ("step", "picked", "place", "number")
]


def test_these(demo):
    t.test_every_page_answers_whatever_is_damaged(demo, 0)
