"""A scale's log: read as scales and people write it, cut into pours; noise, gaps and nonsense."""

import numpy as np
import pytest

from brasspenny.core.brewing.curve import read_curve as segment
from brasspenny.core.brewing.scale_log import read_log
from brasspenny.core.errors import Inconsistent, NotEnoughKnowns, OutOfDomain

from ..amount import examples

POURS = ((3.0, 6.0, 45.0), (43.0, 17.0, 125.0), (83.0, 22.0, 118.0))  # start, length, grams


def log_of(pours, rng=None, *, hz=10.0, noise=0.1, until=170.0, spikes=0, cut=None):
    """Text of a log: straight pours, noise of the scale, dripping wind, single wild values, a stretch missing."""
    t = np.arange(0, until, 1 / hz)
    m = sum(g * np.clip((t - s) / d, 0, 1) for s, d, g in pours)
    if rng is not None:
        m = m + rng.normal(0, noise, len(t))
        for i in rng.integers(20, len(t) - 20, spikes):
            m[i] += rng.choice((-1, 1)) * rng.uniform(60, 400)
    rows = [f"{a:.2f},{b:.1f}" for a, b in zip(t, m, strict=True) if cut is None or not cut[0] < a < cut[1]]
    return "time,mass\n" + "\n".join(rows)


LOGS = examples(400)


def drawn(rng):
    pours, at = [], rng.uniform(1.5, 4)
    for _ in range(rng.integers(1, 6)):
        grams, rate = rng.uniform(20, 130), rng.uniform(2, 10)
        pours.append((at, grams / rate, grams))
        at += grams / rate + rng.uniform(4, 35)
    return pours, at + 10


def test_pours_are_found_again_in_noisy_logs():
    """Starts within 1 s, masses within 1 g, in at least 95 of 100 logs (of the LOGS drawn)."""
    good = 0
    for seed in range(LOGS):
        rng = np.random.default_rng(seed)
        pours, until = drawn(rng)
        found = segment(read_log(log_of(pours, rng, until=until, noise=0.15, spikes=rng.integers(0, 3)))).pours
        good += len(found) == len(pours) and all(abs(f.start_s - s) <= 1 and abs(f.added_g - g) <= 1 for f, (s, _, g) in zip(found, pours, strict=True))
    assert good >= 0.95 * LOGS, good


def test_a_pour_says_when_how_much_and_how_fast():
    found = segment(read_log(log_of(POURS))).pours
    assert [round(p.to_g) for p in found] == [45, 170, 288]
    assert found[1].start_s == pytest.approx(43, abs=0.5) and found[1].end_s == pytest.approx(60, abs=0.5)
    assert found[1].rate_g_s == pytest.approx(125 / 17, rel=0.05)


def test_a_gap_is_a_gap_and_what_was_read_is_kept():
    found = segment(read_log(log_of(POURS, cut=(100, 104))))
    assert [(round(g.start_s), round(g.end_s)) for g in found.gaps] == [(100, 104)] and len(found.pours) == 3
    assert found.pours[2].to_g == pytest.approx(288, abs=1)


@pytest.mark.parametrize(
    "text",
    [
        "t;g\n0;0\n0,5;0,0\n1,0;5,5\n1,5;10\n2,0;15\n2,5;20\n3,0;20\n3,5;20",
        "\ufeff0\t0 g\n0:00.5\t0\n0:01\t5.5\n0:01.5\t10\n0:02\t15\n0:02.5\t20\n0:03\t20\n0:03.5\t20",
        "seconds,grams\n0,0\n0.5,0\n1,5.5\nLo,Lo\n1.5,10\n2,15\n2.5,20\n3,20\n3.5,20\n",
    ],
    ids=["semicolons and decimal commas", "tabs, clock times, a byte-order mark", "words among the numbers"],
)
def test_logs_are_read_as_they_are_written(text):
    log = read_log(text)
    assert list(log.t_s) == [0, 0.5, 1, 1.5, 2, 2.5, 3, 3.5] and log.mass_g[-1] == 20
    assert segment(log).pours[0].added_g == pytest.approx(20, abs=1)
    assert bool(log.notes) == ("Lo" in text)


@pytest.mark.parametrize(
    ("text", "error"),
    [
        ("", NotEnoughKnowns),
        ("hello\nthere", NotEnoughKnowns),
        ("0,0\n1,1", NotEnoughKnowns),
        ("0,0\n10,5\n3,6\n4,6\n5,6", Inconsistent),
        ("0,0\n1,1\n2,2\n3,3\n99999,4", OutOfDomain),
        ("1,1\n" * 200_001, OutOfDomain),
        ("nan,1\ninf,2\n1e999,3", NotEnoughKnowns),
    ],
    ids=["empty", "words", "too few", "clock backwards", "days long", "too many rows", "not numbers"],
)
def test_a_log_that_cannot_be_is_refused_in_words(text, error):
    with pytest.raises(error) as caught:
        segment(read_log(text))
    assert caught.value.field == "text" and caught.value.remedy


def test_a_server_lifted_is_not_a_pour():
    t = np.arange(0, 30, 0.1)
    m = np.where(t < 10, 300.0, np.where(t < 11, 300 - 300 * (t - 10), 0.0))
    assert segment(read_log("\n".join(f"{a:.1f},{b:.1f}" for a, b in zip(t, m, strict=True)))).pours == ()
