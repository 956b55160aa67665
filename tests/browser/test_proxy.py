"""A bench behind a real reverse proxy: one that says nothing of itself, as somebody in a hurry sets it up, and one as the README says."""

import json
import os
import shutil
import subprocess
import sys
import time
import urllib.error
import urllib.request
from contextlib import contextmanager

import pytest

from ..opened import header_of
from .conftest import free_port

NGINX = shutil.which("nginx", path=f"{os.environ['PATH']}:/usr/sbin")
pytestmark = pytest.mark.skipif(NGINX is None, reason="nginx is not installed here")
BARE = ""
AS_THE_README_SAYS = """proxy_buffering off; proxy_set_header X-Forwarded-Host bench.example; proxy_set_header X-Forwarded-Proto https;
    proxy_set_header X-Forwarded-For $proxy_add_x_forwarded_for;"""
CONFIG = """daemon off; pid {folder}/pid; error_log {folder}/errors; worker_processes 1; events {{}}
http {{ access_log off; client_body_temp_path {folder}/a; proxy_temp_path {folder}/b; fastcgi_temp_path {folder}/c; uwsgi_temp_path {folder}/d; scgi_temp_path {folder}/e;
  server {{ listen 127.0.0.1:{port}; location / {{ proxy_pass {base}; {more} }} }} }}"""


@contextmanager
def proxied(base: str, more: str, folder):
    """The address of a proxy before the bench."""
    port = free_port()
    (folder / "conf").write_text(CONFIG.format(folder=folder, port=port, base=base, more=more))
    running = subprocess.Popen([NGINX, "-p", str(folder), "-c", str(folder / "conf")], stderr=subprocess.DEVNULL)
    try:
        for _ in range(300):
            if ask(f"http://127.0.0.1:{port}/api/v1/health")[0] == 200:
                break
            time.sleep(0.1)
        yield f"http://127.0.0.1:{port}"
    finally:
        running.terminate()
        running.wait(timeout=30)


def ask(url: str, body=None, headers=None):
    asked = urllib.request.Request(url, None if body is None else json.dumps(body).encode(), {"Content-Type": "application/json"} | (headers or {}))
    try:
        with urllib.request.urlopen(asked) as answer:
            return answer.status, answer.headers, json.loads(answer.read() or b"null")
    except urllib.error.HTTPError as error:
        return error.code, error.headers, None
    except OSError:
        return 0, {}, None


def test_a_proxy_that_rewrites_the_name_and_adds_nothing_lets_nobody_in(bench, tmp_path):
    """It reaches the bench over loopback, under a loopback name: just as the machine's own browser does."""
    with proxied(bench, BARE, tmp_path) as there:
        for path in ("/trials", "/export.zip", "/people", "/sessions", "/script-tokens"):
            assert ask(f"{there}/api/v1{path}")[0] == 401, path
        assert ask(f"{there}/api/v1/script-tokens", {"name": "mine", "may_write": True})[0] == 401
        assert ask(f"{there}/api/v1/session", {"key": "a guess of mine"})[0] == 401
        assert ask(f"{there}/api/v1/trials", headers=header_of(bench))[0] == 200, "whoever was let in is let in here as well"


@pytest.mark.nightly
def test_behind_a_proxy_as_the_readme_says_the_passphrase_lets_in_and_the_askers_address_counts(started, tmp_path, monkeypatch):
    data = tmp_path / "data"
    data.mkdir()
    (tmp_path / "nginx").mkdir()
    env = os.environ | {"PENNY_DATA": str(data)}
    subprocess.run([sys.executable, "-m", "brasspenny.cli", "passphrase"], env=env, input="mind the anchor chain\n", check=True, capture_output=True, text=True)
    monkeypatch.setenv("PENNY_PUBLIC_URL", "https://bench.example")
    monkeypatch.setenv("PENNY_TRUSTED_PROXIES", "127.0.0.1")
    base = started(data, "serve")
    with proxied(base, AS_THE_README_SAYS, tmp_path / "nginx") as there:
        from_afar = {"X-Forwarded-For": "203.0.113.9"}
        assert ask(f"{there}/api/v1/trials", headers=from_afar)[0] == 401
        status, headers, _ = ask(f"{there}/api/v1/session", {"passphrase": "mind the anchor chain"}, from_afar)
        assert status == 200
        cookie = next(c.partition(";")[0] for c in headers.get_all("Set-Cookie") if c.startswith("penny_") and "device" not in c.partition("=")[0])
        mine = next(s for s in ask(f"{there}/api/v1/sessions", headers=from_afar | {"Cookie": cookie})[2]["sessions"] if s["this_device"])
        assert mine["address"] == "127.0.0.1"  # the proxy's own word counts, not what the asker claimed before it
