"""The data folder: a database is never thrown away, never ended by mistake, and starts wherever it is; the secret lives in it."""

import getpass
import os
import shutil
import signal
import subprocess
import sys
import tempfile
import time
from pathlib import Path

import pymysql
import pytest

from brasspenny import mariadb, preflight, processes
from brasspenny.config import PROJECT
from brasspenny.store import connection, secret
from brasspenny.store.models import Bench

NAME = "brasspenny_here"


@pytest.fixture
def folder():
    made = Path(tempfile.mkdtemp(prefix="penny-f-"))
    yield made
    shutil.rmtree(made, ignore_errors=True)


def ask(running: mariadb.Server, statement: str):
    user, _, place = running.url.removeprefix("mysql://penny:").partition("@")
    host, _, rest = place.partition(":")
    port, _, name = rest.partition("/")
    with pymysql.connect(host=host, port=int(port), user="penny", password=user, database=name, autocommit=True) as link, link.cursor() as cursor:
        cursor.execute(statement)
        return cursor.fetchall()


def with_a_row(folder: Path) -> None:
    running = mariadb.start(folder, name=NAME)
    ask(running, "CREATE TABLE kept (x INT)")
    ask(running, "INSERT INTO kept VALUES (7)")
    running.stop()


def rows(folder: Path):
    running = mariadb.start(folder, name=NAME)
    try:
        return ask(running, "SELECT x FROM kept")
    finally:
        running.stop()


def test_a_missing_mark_a_lost_password_and_a_move_take_nothing_away(folder):
    with_a_row(folder)
    database = folder / "mariadb"
    (database / "ready").unlink()
    assert rows(folder) == ((7,),)
    (database / "password").unlink()
    assert rows(folder) == ((7,),)
    (database / "my.cnf").unlink()
    (database / "mariadbd.pid").write_text("1")
    moved = folder / "moved"
    moved.mkdir()
    database.rename(moved / "mariadb")
    assert rows(moved) == ((7,),)
    copied = folder / "copied"
    shutil.copytree(moved, copied, ignore=shutil.ignore_patterns("*.sock"))
    assert rows(copied) == ((7,),) and rows(moved) == ((7,),)


def test_a_folder_that_is_not_whole_is_refused_while_a_bench_may_be_in_it_and_set_aside_when_none_is(folder, capsys):
    with_a_row(folder)
    hidden = folder / "elsewhere"
    (folder / "mariadb" / "data" / "mysql").rename(hidden)
    with pytest.raises(mariadb.CannotStart, match="not whole"):
        mariadb.start(folder, name=NAME)
    hidden.rename(folder / "mariadb" / "data" / "mysql")
    assert rows(folder) == ((7,),)
    half = folder / "second"
    (half / "mariadb" / "data" / "mysql").mkdir(parents=True)  # a first start of an earlier version, ended in the middle
    (half / "mariadb" / "data" / "ibdata1").write_text("half")
    mariadb.start(half, name=NAME).stop()
    assert (half / "mariadb.aside-1" / "data" / "ibdata1").read_text() == "half"
    assert "It is kept as" in capsys.readouterr().err


def test_an_interrupted_first_start_leaves_nothing_that_looks_like_a_database(folder, monkeypatch):
    def interrupted(*_, **__):
        raise KeyboardInterrupt

    monkeypatch.setattr(subprocess.Popen, "communicate", interrupted)
    monkeypatch.setattr(mariadb, "_user", getpass.getuser)
    with pytest.raises(KeyboardInterrupt):
        mariadb.start(folder, name=NAME)
    monkeypatch.undo()
    assert not (folder / "mariadb").exists()
    mariadb.start(folder, name=NAME).stop()
    assert not (folder / "mariadb.being-made").exists()


def test_only_a_server_that_works_in_this_folder_is_ever_ended(folder):
    """A number in a file says nothing: it may be another bench's database by now."""
    other, mine = folder / "other", folder / "mine"
    running = mariadb.start(other, name=NAME)
    with_a_row(mine)
    (mine / "mariadb" / "mariadbd.pid").write_text(str(running.process.pid))
    try:
        assert rows(mine) == ((7,),)
        assert running.process.poll() is None and ask(running, "SELECT 1") == ((1,),)
    finally:
        running.stop()


def test_what_a_killed_start_left_running_is_ended_even_without_its_number(folder):
    with_a_row(folder)
    orphan = mariadb.start(folder, name=NAME)
    (folder / "mariadb" / "mariadbd.pid").unlink(missing_ok=True)
    assert list(mariadb._running_in(folder / "mariadb" / "data")) == [orphan.process.pid]
    assert rows(folder) == ((7,),)
    assert orphan.process.poll() is not None


def test_an_interrupt_while_it_comes_up_leaves_no_server_behind(folder, monkeypatch):
    with_a_row(folder)

    def interrupt(path):
        raise KeyboardInterrupt

    monkeypatch.setattr(mariadb, "_greets", interrupt)
    with pytest.raises(KeyboardInterrupt):
        mariadb.start(folder, name=NAME)
    assert list(mariadb._running_in(folder / "mariadb" / "data")) == []


def test_the_password_stands_on_no_command_line_and_temporary_tables_lie_in_the_folder(folder, monkeypatch):
    seen = []
    for name in ("run", "Popen"):
        real = getattr(subprocess, name)
        monkeypatch.setattr(subprocess, name, lambda command, *a, real=real, **how: (seen.append(" ".join(map(str, command))), real(command, *a, **how))[1])
    running = mariadb.start(folder, name=NAME)
    try:
        password = (folder / "mariadb" / "password").read_text()
        assert len(seen) >= 3 and not [line for line in seen if password in line]
        assert ask(running, "SELECT @@tmpdir") == ((str(folder / "mariadb" / "tmp"),),)
    finally:
        running.stop()


def serve(folder: Path, port: int):
    env = os.environ | {"PENNY_DATA": str(folder), "PYTHONPATH": str(PROJECT / "src"), "PYTHONUNBUFFERED": "1"}
    said = (folder / "said").open("w+")
    started = subprocess.Popen([sys.executable, "-m", "brasspenny.cli", "serve", "--port", str(port)], env=env, stdout=said, stderr=said)
    return started, said


@pytest.mark.parametrize("after_s", [0.1, 0.8, 2.5])
def test_an_interrupt_at_any_moment_of_a_start_closes_all_and_says_so(folder, after_s):
    started, said = serve(folder, 18_700 + int(10 * after_s))
    while not (folder / "running.lock").exists():  # before that Python itself is only coming up
        time.sleep(0.01)
    time.sleep(after_s)
    started.send_signal(signal.SIGINT)
    assert started.wait(timeout=30) in (0, 130)
    said.seek(0)
    assert "Clos" in said.read()
    assert list(mariadb._running_in(folder / "mariadb" / "data")) == []


def test_an_interrupt_while_a_class_is_being_made_is_a_clean_end_too(folder):
    (folder / "told.py").write_text("""
import argparse, os, signal
from brasspenny import cli
cli._asked = lambda argv: argparse.Namespace(run=lambda _: exec("os.kill(os.getpid(), signal.SIGINT); [i for i in range(10**6)]", globals()))
raise SystemExit(cli.main([]))
""")
    ended = subprocess.run([sys.executable, "-m", "told"], cwd=folder, env=os.environ | {"PYTHONPATH": str(PROJECT / "src")}, capture_output=True, text=True)
    assert ended.returncode == 130 and "Closed." in ended.stderr


# --- the secret --------------------------------------------------------------------------------------------------------


@pytest.fixture
def bench(make_app):
    make_app()
    with connection.database.connection_context():
        Bench.update(secret=None).execute()
    yield
    with connection.database.connection_context():
        Bench.update(secret=None).execute()


def test_a_bench_gives_itself_one_secret_and_every_instance_reads_the_same(bench):
    secret.settle(None)
    first = secret.of_bench()
    secret.settle(None)
    assert secret.of_bench() == first and len(first) == 32


def test_the_secret_of_an_earlier_versions_file_is_taken_over(bench):
    secret.settle("ab" * 32)
    assert secret.of_bench() == b"\xab" * 32
    secret.settle("ab" * 32)
    with pytest.raises(mariadb.CannotStart, match="another bench"):
        secret.settle("cd" * 32)
    assert secret.of_bench() == b"\xab" * 32


@pytest.mark.parametrize("text", ["", "abc", "zz" * 32, "ab" * 16])
def test_a_secret_that_is_none_is_a_sentence_and_nothing_is_overwritten(bench, text):
    with pytest.raises(mariadb.CannotStart, match="damaged"):
        secret.settle(text)
    with connection.database.connection_context():
        assert Bench.get_by_id(1).secret is None
        Bench.update(secret=text).execute()
    with pytest.raises(mariadb.CannotStart, match="damaged"):
        secret.of_bench()


def test_the_file_of_an_earlier_version_serves_the_demo_and_the_bench_alike(bench, folder):
    """Both were made with it: whichever starts first must not leave the other without."""
    (folder / "secret").write_text("ab" * 32)
    for _ in ("demo", "serve"):
        with connection.database.connection_context():
            Bench.update(secret=None).execute()
        preflight.settle_secret(folder)
        assert secret.of_bench() == b"\xab" * 32


# --- the serving processes ---------------------------------------------------------------------------------------------


def stand_in(monkeypatch, *programs: str):
    """Processes that run these lines of Python, one after the other, instead of a bench."""
    waiting = list(programs)

    def one(self):
        return subprocess.Popen([sys.executable, "-c", waiting.pop(0) if len(waiting) > 1 else waiting[0]])

    monkeypatch.setattr(processes.Processes, "_one", one)
    return processes.Processes(processes.listen("127.0.0.1", 0), {}, 1)


FALLS, STANDS = "raise SystemExit(1)", "import time; time.sleep(60)"


def wait_for_a_fall(servers):
    servers.running[0].wait(timeout=30)


def copies(live):
    """One process that is a copy of a plain one, doing this with its socket: made in a process of its own, for a copy must have one thread."""
    script = f"""
import os, signal, sys, threading, time
from brasspenny import processes
def live(fd):
{live}
servers = processes.Processes(processes.listen("127.0.0.1", 0), {{"PENNY_LINK_BASE": "here"}}, 1, live)
lock = open("/proc/self/status")
servers.start()
print(servers.running[0].wait(timeout=30), servers.running[0].pid, flush=True)
servers.stop()
"""
    env = os.environ | {"PYTHONPATH": str(PROJECT / "src")}
    return subprocess.run([sys.executable, "-c", script], env=env, capture_output=True, text=True, timeout=60)


def test_a_copy_keeps_its_socket_alone_reads_its_settings_and_is_told_apart():
    said = copies("""
    held = [os.readlink(f"/proc/self/fd/{n}") for n in os.listdir("/proc/self/fd") if int(n) > 2 and os.path.exists(f"/proc/self/fd/{n}")]
    print(sum("socket" in h for h in held), sum("status" in h for h in held), os.environ["PENNY_LINK_BASE"], open("/proc/self/comm").read().strip(), flush=True)
""")
    assert said.stdout.splitlines()[0] == "1 0 here penny-serves" and said.stdout.splitlines()[1].startswith("0 "), said.stderr


def test_a_copy_that_fails_says_why_and_leaves_with_an_error():
    said = copies("    raise ValueError('no such bench')")
    assert said.stdout.startswith("1 ") and "ValueError: no such bench" in said.stderr


def test_a_copy_ends_when_it_is_told_and_when_its_parent_is_gone():
    said = copies("    threading.Timer(0.2, os.kill, (os.getpid(), signal.SIGTERM)).start(); time.sleep(60)")
    assert said.stdout.startswith("-15 ")
    said = copies("    os.kill(os.getppid(), signal.SIGKILL); time.sleep(3); print('still here', flush=True)")
    assert said.returncode == -9 and "still here" not in said.stdout


def test_a_process_that_never_stood_ends_the_start_however_long_it_took(monkeypatch):
    servers = stand_in(monkeypatch, FALLS)
    servers.start()
    wait_for_a_fall(servers)
    with pytest.raises(processes.Fell):
        servers.tend()
    servers.stop()


def test_a_process_that_falls_later_is_put_back_but_not_for_ever(monkeypatch):
    servers = stand_in(monkeypatch, FALLS, STANDS)
    servers.start()
    servers.stood = True
    wait_for_a_fall(servers)
    servers.tend()
    assert servers.running[0].poll() is None
    servers.stop()
    again = stand_in(monkeypatch, FALLS)
    again.start()
    again.stood = True
    with pytest.raises(processes.Fell):
        for _ in range(processes.MOST_FALLS):
            wait_for_a_fall(again)
            again.tend()
    again.stop()
