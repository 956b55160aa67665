"""The host's hands on the API, in the field's words. Every call must succeed unless said otherwise."""

from __future__ import annotations

import uuid
from dataclasses import dataclass, field
from itertools import count

from brasspenny.core.grinding.sieve import Weibull
from brasspenny.devices.sieves import shake

NEW_KIT = ["coffee", "grinder", "filter", "brewer", "water"]
"""Whatever a setup names is added to the kit, as a host would say it is."""
WATER = {"A": 290, "B": 290, "C": 290}


@dataclass
class Host:
    client: object
    seqs: count = field(default_factory=lambda: count(1))

    def call(self, method: str, path: str, body=None, *, status: int | None = None, rev: int | None = None, headers=None):
        """The answer's JSON; fails on a 5xx always, and on another status than the one expected (any 2xx by default)."""
        headers = dict(headers or {}) | ({"If-Match": str(rev)} if rev is not None else {})
        answer = self.client.open(f"/api/v1{path}", method=method, json=body, headers=headers)
        said = answer.get_json(silent=True)
        ok = answer.status_code == status if status else answer.status_code < 300
        assert ok, f"{method} {path}: {answer.status_code} {said}"
        if answer.status_code >= 400:
            assert answer.mimetype == "application/problem+json" and said["detail"], said
        return said

    def bring_in(self, bench: bytes, *, status: int = 200, headers=None):
        """A whole bench by its ZIP; its answer's JSON."""
        answer = self.client.post("/api/v1/bench-import", data=bench, content_type="application/zip", headers=headers)
        said = answer.get_json(silent=True)
        assert answer.status_code == status, f"{answer.status_code} {said}"
        return said

    def get(self, path: str, **how):
        return self.call("GET", path, **how)

    def charts(self, query: str = ""):
        """The charts, its columns read as points."""
        room = self.get(f"/charts{query}")
        columns = room["points"]
        texts = columns.pop("texts")
        coded = {"label", "letter", "purpose", "trial_id", "coffee", "grinder", "brewer", "recipe_id", "name"}
        simulated = set(columns.pop("simulated"))
        columns["simulated"] = [i in simulated for i in range(len(columns["run_id"]))]
        told = {k: [texts[i] if i >= 0 else None for i in column] if k in coded else column for k, column in columns.items()}
        return room | {"points": [dict(zip(told, values, strict=True)) for values in zip(*told.values(), strict=True)]}

    def person(self, name: str) -> str:
        return self.call("POST", "/people", {"name": name})["id"]

    def ask(self, question="Which filter?", factor="filter", **more):
        return self.call("POST", "/trials", {"question": question, "factor": factor, **more})

    def trial_called(self, question: str) -> str:
        """Its id, by the whole question: tests share a bench, and another's may begin alike."""
        (found,) = [t["id"] for t in self.get("/trials")["trials"] if t["question"] == question]
        return found

    def setup(self, trial_id: str, *, recipe_version_id: str | None = None, **variables):
        base = {"filter": "White weave", "brewer": "Binnacle", "brewer_type": "flat_bed", "temperature_c": 93, "dose_g": 18, "brew_water_g": 290}
        body = {"variables": base | variables, "recipe_version_id": recipe_version_id, "new_kit": NEW_KIT}
        return self.call("POST", f"/trials/{trial_id}/setups", body)

    def recipe(self, text: str, name: str = "Plain three pours"):
        """A recipe written as text, saved."""
        document = self.call("POST", "/recipe-check", {"document": self.call("POST", "/calc/recipe-parse", {"text": text})["document"]})["cumulative"]
        return self.call("POST", "/recipes", {"name": name, "document": document})

    def sieved(self, dial_id: str, setting: float, d50_um: float = 650.0, *, samples: int = 2, **more) -> list[str]:
        """Samples of one grind, from the stand-in sieves' own arithmetic: the same heaps each time, so that medians asked for alike are alike."""
        um = (300.0, 500.0, 800.0, 1100.0)
        grind = Weibull(d50_um / Weibull(1.0, 2.3, 0.0).median_um, 2.3, 0.0)
        heaps = shake(grind, um, 25.0, seed=5)
        body = {"dial_id": dial_id, "setting": setting, "mass_in_g": 25, "fractions": [{"aperture_um": f.aperture_um, "mass_g": f.mass_g} for f in heaps]}
        return [self.call("POST", "/sieve-samples", body | more)["id"] for _ in range(samples)]

    def sieve_match(self, a_id: str, a_setting: float, b_id: str, b_setting: float, d50_um: float = 650.0) -> str:
        """A matched setting with samples behind it."""
        first, second = self.sieved(a_id, a_setting, d50_um), self.sieved(b_id, b_setting, d50_um)
        return self.call("POST", "/sieve-matches", {"first_id": first[0], "second_id": second[0]})["id"]

    def copy(self, setup, **variables):
        return self.call("POST", f"/trials/{self._trial_of(setup)}/setups", {"copy_of": setup["id"], "variables": variables, "new_kit": NEW_KIT})

    def _trial_of(self, setup) -> str:
        return next(t["id"] for t in self.get("/trials")["trials"] if any(s["id"] == setup["id"] for s in self.get(f"/trials/{t['id']}/setups")["setups"]))

    def brew(self, trial_id: str, setup, *, tds=(1.41, 1.43, 1.42), **more):
        body = {"setup_id": setup["id"], "dose_g": 18, "brew_water_g": 290, "beverage_g": 248, "tds_readings_pct": list(tds), **more}
        return self.call("POST", f"/trials/{trial_id}/runs", body)

    def flight(self, trial_id: str, run_ids, taster_ids, **more):
        return self.call("POST", f"/trials/{trial_id}/flights", {"run_ids": run_ids, "taster_ids": taster_ids, **more})

    def touch(self, code: str, attribute: str = "liking", value=None, text: str = "", seq: int | None = None, uid: str | None = None):
        return {"uuid": uid or str(uuid.uuid4()), "seq": seq or next(self.seqs), "code": code, "attribute": attribute, "value": value, "text": text}

    def score(self, sheet, *touches, **how):
        return self.call("PUT", f"/taste/{token(sheet)}/scores", {"scores": list(touches)}, **how)

    def two_setups_brewed(self, brews: int = 2):
        """A trial with setups A and B, each brewed `brews` times: (trial, setups, run ids in mark order)."""
        trial = self.ask()
        a = self.setup(trial["id"])
        b = self.copy(a, filter="Thick crêpe")
        runs = [self.brew(trial["id"], s)["id"] for s in (a, b) for _ in range(brews)]
        return trial, (a, b), runs

    def taste(self, flight, liking_by_mark, *, key=None):
        """Everybody scores every cup by the brew truly in it, then the host closes and flips. key: code → mark."""
        codes = [c["code"] for c in flight["cups"]]
        key = key or {code: i + 1 for i, code in enumerate(codes)}
        for i, sheet in enumerate(flight["sheets"]):
            self.score(sheet, *(self.touch(code, value=liking_by_mark(key[code], i)) for code in codes))
        self.call("POST", f"/flights/{flight['id']}/close")
        return self.call("POST", f"/flights/{flight['id']}/flip", {"marks": [{"code": c, "mark": m} for c, m in key.items()]})


def token(sheet) -> str:
    return sheet["link"].rsplit("/", 1)[-1]
