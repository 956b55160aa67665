"""The one command: ./penny demo · serve · open · test · judge · scale · passphrase · backup · restore · export · import · doctor."""

from __future__ import annotations

import argparse
import getpass
import http.client
import importlib
import json
import os
import shutil
import signal
import ssl
import subprocess
import sys
import tempfile
import threading
import time
import urllib.error
import urllib.request
import webbrowser
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path

from . import __version__, addresses, config, mariadb, nightly, processes
from .preflight import DEMO_DATABASE, OWN_DATABASE, Stop, data_folder, database, only_one, settle_secret
from .served_at import ANY_ADDRESS, Asked, Place, has_public_name

SCRATCH_BYTES = 3 * 2**30
"""What the folders of a test run take at most, with room to spare."""


class Interrupted(KeyboardInterrupt):
    """Asked to end. A class of its own: Python remembers a plain KeyboardInterrupt that passes through an exec of text (every dataclass
    read in is one) and ends itself by the signal after all, caught or not."""


def main(argv: list[str] | None = None) -> int:
    args = _asked(sys.argv[1:] if argv is None else argv)
    interrupted = []

    def interrupt(*_) -> None:
        interrupted.append(True)
        raise Interrupted

    if threading.current_thread() is threading.main_thread():
        for each in (signal.SIGINT, signal.SIGTERM):
            signal.signal(each, interrupt)  # the first also when started in the background by a script
    try:
        return args.run(args) or 0
    except (Stop, addresses.Refused, mariadb.CannotStart, TimeoutError) as error:
        print(error, file=sys.stderr)
        return 2
    except BaseException:
        if not interrupted:
            raise
        print("\nClosed.", file=sys.stderr)  # whatever was in the middle of something may have complained in its own words
        return 130


def _asked(argv: list[str]) -> argparse.Namespace:
    """What follows `test` is pytest's, options and all."""
    if argv[:1] == ["test"]:
        return argparse.Namespace(run=lambda _: _test(argv[1:]))
    return _parser().parse_args(argv)


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="./penny", description="Brass Penny: a tasting bench for people who compare brews.")
    parser.add_argument("--version", action="version", version=__version__)
    commands = parser.add_subparsers(required=True, metavar="command")
    demo = commands.add_parser("demo", help="serve the bench with made-up data")
    demo.add_argument("--fresh", action="store_true", help="put the made-up data back as it was")
    serve = commands.add_parser("serve", help="serve the bench")
    serve.add_argument("--host", default="127.0.0.1", help="0.0.0.0 lets phones on this network in; a passphrase is needed")
    for each in (demo, serve):
        each.add_argument("--port", type=int, default=None, help="port to serve on; PENNY_PORT when not given")
        each.add_argument("--phones", action="store_true", help="let phones on this network in: a passphrase is made and shown, with a code for the camera")
        each.add_argument("--tls", action="store_true", help="serve over https with a certificate made here, and say how phones come to trust it")
    demo.set_defaults(run=lambda a: _serve(ANY_ADDRESS if a.phones else "127.0.0.1", _port(a), demo=True, fresh=a.fresh, phones=a.phones, tls=a.tls))
    serve.set_defaults(run=lambda a: _serve(ANY_ADDRESS if a.phones else a.host, _port(a), phones=a.phones, tls=a.tls))
    another = commands.add_parser("open", help="print an address that lets one more browser of this machine in")
    another.add_argument("--port", type=int, default=None, help="the port it is served on; PENNY_PORT when not given")
    another.add_argument("--demo", action="store_true", help="of the bench with made-up data")
    another.set_defaults(run=lambda a: _open(_port(a), demo=a.demo))
    commands.add_parser("test", help="run every test", add_help=False)
    judge = commands.add_parser("judge", help="the verdict on a plain CSV of scores")
    judge.add_argument("file", type=Path)
    judge.add_argument("--attribute", default="liking")
    judge.add_argument(
        "--history",
        type=Path,
        nargs="+",
        default=[],
        metavar="EARLIER.csv",
        help="earlier panels of these people, oldest first: what they say of scatter is the prior",
    )
    judge.add_argument("--json", action="store_true")
    judge.set_defaults(run=_judge)
    scale = commands.add_parser("scale", help="a made-up scale that speaks over the network, to try one without one")
    scale.add_argument("--port", type=int, default=7070)
    scale.set_defaults(run=lambda a: _scale(a.port))
    commands.add_parser("passphrase", help="set the passphrase that a bench open to the network asks for").set_defaults(run=_passphrase)
    backup = commands.add_parser("backup", help="the whole bench in one file, while it runs; compared before it is done")
    restore = commands.add_parser("restore", help="put a backup in the place of the bench; what it held is kept aside")
    for each in (backup, restore):
        each.add_argument("file", type=Path)
        each.add_argument("--demo", action="store_true", help="of the bench with made-up data")
    backup.set_defaults(run=lambda a: _carry("make_backup", a.file, demo=a.demo))
    restore.set_defaults(run=lambda a: _carry("restore", a.file, demo=a.demo))
    export = commands.add_parser("export", help="the whole bench as open files: JSON, CSV, pictures, and what each field means")
    arrive = commands.add_parser("import", help="read a whole bench in, from such a folder or a ZIP of it")
    for each, what in ((export, "folder"), (arrive, "path")):
        each.add_argument(what, type=Path)
        each.add_argument("--demo", action="store_true", help="of the bench with made-up data")
    export.set_defaults(run=lambda a: _carry("export", a.folder, demo=a.demo))
    arrive.set_defaults(run=lambda a: _carry("bring_in", a.path, demo=a.demo))
    commands.add_parser("doctor", help="what is installed, running and wrong").set_defaults(run=_doctor)
    return parser


def _port(args: argparse.Namespace | None = None) -> int:
    """As asked for on the command line, else as set."""
    return args.port if args is not None and args.port is not None else _whole("PENNY_PORT", 1, 65_535)


def _whole(name: str, least: int, most: int) -> int:
    try:
        return config.whole(name, least=least, most=most)
    except ValueError as error:
        raise Stop(str(error)) from None


def _check_settings() -> None:
    """What the serving processes will read, looked at while there is somebody to tell."""
    try:
        config.threads()
        config.trusted_proxies()
    except ValueError as error:
        raise Stop(str(error)) from None


# --- serving ---------------------------------------------------------------------------------------------------------


def _serve(host: str, port: int, *, demo: bool = False, fresh: bool = False, phones: bool = False, tls: bool = False) -> int:
    workers = _whole("PENNY_WORKERS", 1, 64)
    _check_settings()
    data = data_folder()
    addresses.refuse_taken(host, port)
    with only_one(data), _reading_in() as whole, database(data, DEMO_DATABASE if demo else OWN_DATABASE) as (url, database_runs):
        whole.join()
        from .bench import phones as phone
        from .bench.service import has_passphrase
        from .bench.sessions import make_key
        from .http import utc_now
        from .store import connection

        connection.bind(url, patience_s=None)
        connection.migrate()
        settle_secret(data)
        if demo:
            _load_demo(data, fresh)
        place = Place(host, port, tls)
        with connection.database.connection_context():
            made = phone.let_in(anew=demo) if phones else ""
            if (place.on_network or has_public_name()) and not has_passphrase():
                raise Stop("A bench that others can reach needs a passphrase. Set one with ./penny passphrase, then start again.")
            key = make_key(utc_now())
        connection.database.close_all()
        own = place.elsewhere
        said = phone.said(config.get("PENNY_PUBLIC_URL").rstrip("/") or own, made) if phones else ""
        if tls:
            said += _certified(data, own)
        return _run(place, url, data, workers, database_runs, key, said)


@contextmanager
def _reading_in() -> Iterator[threading.Thread]:
    """The program is read in while the database starts: the serving processes are copies of this one. Nothing else may be read in before it has ended."""
    os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")  # a copy is made of one thread
    reading = threading.Thread(target=importlib.import_module, args=("brasspenny.server",), daemon=True)
    reading.start()
    yield reading


def _serve_at(fd: int) -> None:
    from .server import serve

    serve(fd)


def _certified(data: Path, link: str) -> str:
    """The certificate is there; how phones come to trust it."""
    from . import certificate

    certificate.settle(data, certificate.names_of_this_machine(addresses.own_address()))
    steps = "\n".join(f"  {i}. {step.format(link=link + '/')}" for i, step in enumerate(certificate.STEPS, start=1))
    return f"  So that a phone trusts this bench's certificate, once on each:\n{steps}\n"


def _load_demo(data: Path, fresh: bool) -> None:
    from .demo import scenario
    from .store import connection, secret
    from .tasting.service import LinkMaker

    if fresh and config.get("PENNY_DATABASE_URL"):
        raise Stop("--fresh empties the bench, so it works on our own demo database only. Unset PENNY_DATABASE_URL.")
    with connection.database.connection_context():
        if fresh or scenario.bench_is_empty():
            print("Laying out the demo bench", file=sys.stderr)
            scenario.load(LinkMaker(secret.of_bench(), ""))


def _run(place: Place, url: str, data: Path, workers: int, database_runs: Callable[[], bool], key: str, said: str = "") -> int:
    """key: lets this machine's browser in, once; said: what else is printed once it is open."""
    tmp, asked = _own_tmp(data), Asked()
    servers = _serving(place, url, data, tmp, workers)
    try:
        servers.start()
        _wait_until_it_answers(servers, place.asked)
        here = place.here + opening(key)
        print(
            f"\n  Brass Penny is open at  {here}\n  This address lets one browser of this machine in; ./penny open prints another.\n{_elsewhere(place)}  Ctrl+C closes it.\n{said}",
            flush=True,
        )
        _show(here)
        own = url.rsplit("/", 1)[-1] != DEMO_DATABASE  # what is made up needs no backup
        nights = nightly.Nights.set_by(config.get("PENNY_NIGHTLY") if own else "")
        _stand_by(servers, database_runs, nights, asked)
        servers.stop()
        try:
            servers = _serving(place.opened(), url, data, tmp, workers)
            told = f"  The bench is open to this network now.\n{_elsewhere(place.opened())}"
        except OSError as error:
            servers, told = _serving(place, url, data, tmp, workers), f"  The bench stays on this machine alone: {error.strerror}.\n"
        servers.start()
        _wait_until_it_answers(servers, place.asked)
        print(f"\n{told}", flush=True)
        _stand_by(servers, database_runs, nights)
    except KeyboardInterrupt:
        print("\nClosing.", file=sys.stderr)
    except processes.Fell:
        raise Stop("The bench could not be served; see above.") from None
    finally:
        servers.stop()
    return 0


def _serving(place: Place, url: str, data: Path, tmp: Path, workers: int) -> processes.Processes:
    return processes.Processes(processes.listen(place.host, place.port), place.env(url, data, tmp), workers, _serve_at)


def _elsewhere(place: Place) -> str:
    return f"  Other devices, by the passphrase:  {place.elsewhere}\n" if place.on_network else ""


def opening(key: str) -> str:
    """What follows the bench's address. Behind the #, no server and no proxy sees it."""
    return f"/#open={key}"


def _show(address: str) -> None:
    """Open the browser where somebody sits at a screen."""
    if sys.stdout.isatty() and (os.environ.get("DISPLAY") or os.environ.get("WAYLAND_DISPLAY")):
        webbrowser.open(address)


def _open(port: int, *, demo: bool) -> int:
    """Print an address that lets one more browser of this machine in."""
    import peewee

    from .bench.sessions import make_key
    from .http import utc_now
    from .store import connection

    url = config.get("PENNY_DATABASE_URL") or mariadb.running_url(data_folder(), name=DEMO_DATABASE if demo else OWN_DATABASE)
    if not url:
        raise Stop("No bench is being served from this folder. Start it with ./penny serve.")
    connection.bind(url, patience_s=None)
    try:
        with connection.database.connection_context():
            print(f"http://127.0.0.1:{port}{opening(make_key(utc_now()))}")
    except (peewee.OperationalError, peewee.ProgrammingError):  # no such database, or none of its tables
        other = "" if demo else " The demo's is opened with ./penny open --demo."
        raise Stop(f"This bench is not being served from this folder.{other}") from None
    return 0


def _own_tmp(data: Path) -> Path:
    """Large bodies are laid down there while they arrive: nothing is written outside the data folder."""
    folder = data / "tmp"
    folder.mkdir(exist_ok=True, mode=0o700)
    return folder


STARTS_WITHIN_S = 90
"""A busy machine takes its time to read the program in."""


def _stand_by(servers: processes.Processes, database_runs: Callable[[], bool], nights: nightly.Nights, asked: Asked | None = None) -> None:
    """Until somebody ends it or asks for the bench to be opened; or the database ends: then better to stop and say so than to answer nothing."""
    while not (asked and asked.heard):
        servers.tend()
        nights.tend()
        if not database_runs():
            raise Stop("The database has ended. Nothing that was confirmed is lost; start again.")
        time.sleep(0.5)


def _wait_until_it_answers(servers: processes.Processes, base: str) -> None:
    until = time.monotonic() + STARTS_WITHIN_S
    while time.monotonic() < until:
        servers.tend()
        if _health(base) == 200:
            servers.stood = True
            return
        time.sleep(0.05)
    raise Stop(f"The bench did not answer within {STARTS_WITHIN_S} s; run ./penny doctor.")


def _health(base: str) -> int | None:
    """What the bench at this address says of itself; None where none answers. Its certificate is not asked after: it is our own process at the other end."""
    unasked = ssl.create_default_context()
    unasked.check_hostname, unasked.verify_mode = False, ssl.CERT_NONE
    try:
        with urllib.request.urlopen(f"{base}/api/v1/health", timeout=2, context=unasked if base.startswith("https") else None) as answer:
            return answer.status
    except urllib.error.HTTPError as error:
        return error.code
    except (OSError, http.client.HTTPException):
        return None


# --- the other commands ----------------------------------------------------------------------------------------------


NIGHTLY_SUITE = "PENNY_NIGHTLY_SUITE"
"""Set for the tests by `./penny test --nightly`: the long rest of each check runs as well."""


def _test(pytest_args: list[str]) -> int:
    nightly = {NIGHTLY_SUITE: "1"} if "--nightly" in pytest_args else {}
    pytest_args = [arg for arg in pytest_args if arg != "--nightly"]
    workers = min(4, os.cpu_count() or 1)  # each keeps its core busy with a MariaDB, a bench and a browser of its own; one more is slower
    with tempfile.TemporaryDirectory(prefix="penny-", dir=_scratch_folder()) as scratch:
        basetemp = f"--basetemp={scratch}/t"  # short: a database's socket lies deep in it, and its path has a limit
        command = [sys.executable, "-m", "pytest", "-n", str(workers), "--dist", "worksteal", basetemp, *pytest_args]
        return subprocess.run(command, cwd=config.PROJECT, env=os.environ | nightly | {"TMPDIR": scratch}).returncode


def _scratch_folder() -> str | None:
    """Return memory-backed storage where there is enough of it, else None for the system default: creating a database is mostly waiting for the disk."""
    memory = Path("/dev/shm")
    return str(memory) if memory.is_dir() and shutil.disk_usage(memory).free > SCRATCH_BYTES else None


def _judge(args: argparse.Namespace) -> int:
    from .core.errors import PennyError
    from .core.figures import chance, p_value, points, regret, signed
    from .core.judging import judge
    from .core.judging.evidence import design_word
    from .core.judging.learnt import learn
    from .core.judging.scores import cups_of
    from .interchange.scores_csv import answer_of_scores, judgement_json, read_scores, scale_of

    low, high = scale_of(args.attribute)

    def cups_in(file: Path):
        try:
            scores = read_scores(file.read_bytes(), attribute=args.attribute)
            return scores, cups_of(scores, low=low, high=high)
        except OSError as error:
            raise Stop(f"{file} cannot be read: {error.strerror}.") from None
        except PennyError as error:
            raise Stop(f"{file}: {error}") from None

    scores, _ = cups_in(args.file)
    learnt = learn([cups_in(file)[1] for file in args.history], scale=(high - low) / 8)
    found = judge(scores, attribute=args.attribute, low=low, high=high, conditions_known=False, learnt=learnt)
    said = answer_of_scores(found, scores)
    if args.json:
        print(json.dumps(judgement_json(found, said) | ({"scatter": learnt.said} if learnt else {}), ensure_ascii=False))
        return 0
    print(
        f"{said.headline}\n{said.certainty}\n{said.action}\nDesign: {design_word(found.evidence_grade)}"
        + (f"\nJudged with {learnt.said}" if learnt else "")
        + "\n"
    )
    for camp in said.groups:
        print(
            f"  {len(camp.tasters)} tasters ({', '.join(camp.tasters)}) like {' and '.join(camp.favourites)} {'best' if len(camp.favourites) == 1 else 'alike'}: "
            + ", ".join(f"{letter} {points(mean)}" for letter, mean in sorted(camp.means.items()))
        )
    for s in () if said.groups else sorted(found.setups, key=lambda s: -s.mean):  # nobody likes as the average of opposite groups does
        ends = (
            f"{points(s.interval[0])} to {points(s.interval[1])}   best {chance(s.probability_best)}   risks {regret(s.expected_regret)}" if s.interval else ""
        )
        print(f"  {s.setup:<24} {points(s.mean):>4}   {ends}")
    for d in () if said.groups else found.differences:
        apart = [signed(x, points) for x in (d.estimate, *d.interval)]
        print(f"  {d.a} − {d.b}: {apart[0]} ({apart[1]} to {apart[2]}), p {p_value(d.p_value)}, adjusted {p_value(d.p_adjusted)}")
    for c in found.caveats:
        print(f"  ◆ {c.text} {c.cure}")
    return 0


def _scale(port: int) -> int:
    from .devices.speaking import serve

    try:
        serve(port, said=print)
    except OSError as error:
        raise Stop(f"Port {port} cannot be listened on ({error.strerror}). Give another with --port.") from None
    return 0


def _passphrase(_: argparse.Namespace) -> int:
    from .bench.service import SHORTEST_PASSPHRASE, set_passphrase
    from .http import utc_now
    from .store import connection

    first = getpass.getpass("New passphrase: ") if sys.stdin.isatty() else sys.stdin.readline().rstrip("\n")
    if len(first) < SHORTEST_PASSPHRASE:
        raise Stop(f"A passphrase has at least {SHORTEST_PASSPHRASE} characters.")
    if sys.stdin.isatty() and getpass.getpass("Once more: ") != first:
        raise Stop("The two were not the same; nothing was changed.")
    data = data_folder()
    with only_one(data), database(data, OWN_DATABASE) as (url, _):
        connection.bind(url, patience_s=None)
        connection.migrate()
        with connection.database.connection_context():
            set_passphrase(first, utc_now())
        connection.database.close_all()
    print("The passphrase is set.")
    return 0


def _carry(what: str, path: Path, *, demo: bool) -> int:
    from . import backup_commands

    return getattr(backup_commands, what)(path, DEMO_DATABASE if demo else OWN_DATABASE)


def _doctor(_: argparse.Namespace) -> int:
    wrong = 0
    for program, why in (
        ("mariadbd", "the database"),
        ("mariadb-install-db", "making the database"),
        ("mariadb", "setting it up"),
        ("chromium", "browser tests only"),
    ):
        found = mariadb.find(program)
        wrong += found is None and program != "chromium"
        print(f"  {'found  ' if found else 'MISSING'}  {program} ({why})")
    built = (config.PROJECT / "web" / "dist" / "index.html").exists()
    print(f"  {'built  ' if built else 'not yet'}  interface")
    port = _port()
    status = next(filter(None, (_health(f"{scheme}://127.0.0.1:{port}") for scheme in ("http", "https"))), None)
    print(f"  {'not now' if status is None else 'answers' if status == 200 else 'SICK   '}  bench on port {port}")
    for setting in config.SETTINGS:
        shown = "set" if setting.name == "PENNY_DATABASE_URL" and config.get(setting.name) else config.get(setting.name) or "—"
        print(f"  {setting.name} = {shown}: {setting.sentence}")
    return 1 if wrong else 0


if __name__ == "__main__":
    sys.exit(main())
