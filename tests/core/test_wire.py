"""A scale over a wire: what lines mean, which addresses are taken, and the made-up scale that speaks."""

import itertools
import socket
import threading

import pytest
from hypothesis import given
from hypothesis import strategies as st

from brasspenny.devices.speaking import Listener, Speaking, readings
from brasspenny.devices.wire import Attempts, is_this_machine, lines_from, place_of, read_line, write_line


@given(st.floats(-5000, 5000))
def test_what_is_written_reads_back(grams):
    assert read_line(write_line(grams)) == pytest.approx(grams, abs=0.051)


@given(st.text(max_size=90))
def test_any_line_is_a_mass_or_none(text):
    assert read_line(text) is None or abs(read_line(text)) <= 100_000


@pytest.mark.parametrize(
    ("line", "grams"),
    [
        ("ST,GS,+ 12.3 g", 12.3),
        ("0,1205 kg", 120.5),
        ("1 oz", 28.349523125),
        (" -0.4", -0.4),
        ("12.3 ml", None),
        ("1.2.3", None),
        ("", None),
        ("9999999 g", None),
    ],
)
def test_lines_as_scales_print_them(line, grams):
    assert read_line(line) == (pytest.approx(grams) if grams is not None else None)


@pytest.mark.parametrize(
    "address",
    [
        "8.8.8.8:7070",
        "example.com:7070",
        "192.168.1.4",
        "192.168.1.4:22",
        "0.0.0.0:7070",
        "224.0.0.1:7070",
        "169.254.169.254:8080",
        "198.18.0.1:7070",
        "[fe80::1]:7070",
        "100.64.0.1:7070",
        "999.1.1.1:7070",
        "",
    ],
)
def test_only_a_local_scale_is_taken(address):
    with pytest.raises(ValueError, match=r"\w\."):
        place_of(address)


def test_addresses_of_this_machine_are_known_whatever_they_are_called():
    assert all(map(is_this_machine, ("127.0.0.1:7070", "127.9.9.9:7070", "localhost:7070", "[::1]:7070")))
    assert not is_this_machine("192.168.77.200:7070")


def test_a_scale_that_is_off_is_not_asked_without_end():
    tries = Attempts(most=3, within_s=10)
    assert [tries.may_try(t) for t in (0, 1, 2, 3, 9.9, 10.1, 10.2)] == [True, True, True, False, False, True, False]


def test_the_made_up_scale_waits_pours_and_is_lifted():
    now = itertools.count(0, 0.5)
    said = [read_line(line) for line in itertools.islice(readings(3, clock=lambda: next(now), sleep=lambda _: None), 380)]
    assert said[0] == 0 and max(said) == pytest.approx(288, abs=5) and min(said) == pytest.approx(-312, abs=1)


def test_lines_come_over_the_network_as_they_are_written():
    with Speaking(("127.0.0.1", 0), Listener) as server:
        threading.Thread(target=server.serve_forever, kwargs={"poll_interval": 0.05}, daemon=True).start()
        lines = lines_from(f"127.0.0.1:{server.server_address[1]}")
        assert [read_line(next(lines)) for _ in range(3)] == [0, 0, 0]
        lines.close()
        server.shutdown()
    with socket.socket() as nobody:
        nobody.bind(("127.0.0.1", 0))
        with pytest.raises(OSError):
            next(lines_from(f"127.0.0.1:{nobody.getsockname()[1]}"))
