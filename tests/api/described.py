"""The OpenAPI document as it is served; test_contract.py holds it current."""

import json

from brasspenny.app import DOCUMENT as FILE

DOCUMENT = json.loads(FILE.read_text())
