"""Writes docs/bench-format.schema.json from the tables themselves; a test holds the two together.

PYTHONPATH=src .venv/bin/python docs/write_bench_schema.py
"""

from __future__ import annotations

import json
from pathlib import Path

from brasspenny.bench_files.kinds import schema

Path(__file__).with_name("bench-format.schema.json").write_text(json.dumps(schema(), indent=1, ensure_ascii=False) + "\n")
