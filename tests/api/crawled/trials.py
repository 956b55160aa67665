"""Trials of every kind of question, method, panel and stage, from one seed: what the crawler goes through."""

from __future__ import annotations

import random
from dataclasses import dataclass
from itertools import product

from ..host import Host, token

SEED, HOW_MANY = 29, 64
DOSE_G, KEPT_G_G, EY_PCT = 18.0, 2.1, 20.0


@dataclass(frozen=True)
class Kind:
    """A question: what is asked about, and what each setup has of its own."""

    factors: tuple[str, ...]
    setups: tuple[dict, ...]

    @property
    def is_pair(self) -> bool:
        return len(self.setups) == 2


def each(name: str, *values) -> tuple[dict, ...]:
    return tuple({name: v} for v in values)


def crossed(first: tuple[dict, ...], second: tuple[dict, ...]) -> tuple[dict, ...]:
    return tuple({**a, **b} for a, b in product(first, second))


PAPERS, LOTS, MILLS = (
    each("filter", "White weave", "Thick crêpe"),
    each("coffee", "Lot 1", "Lot 2"),
    ({"grinder": "Old mill", "grind_setting": "5"}, {"grinder": "New mill", "grind_setting": "14"}),
)
KINDS = {
    "filter": Kind(("filter",), PAPERS),
    "three filters": Kind(("filter",), each("filter", "White weave", "Thick crêpe", "Steel mesh")),
    "ratio": Kind(("ratio",), each("brew_water_g", 252, 270, 288, 306)),
    "two ratios": Kind(("ratio",), each("brew_water_g", 270, 306)),
    "temperature": Kind(("temperature",), each("temperature_c", 88, 92, 96)),
    "grind": Kind(("grind_setting",), tuple({"grinder": "Old mill", "grind_setting": x} for x in ("4", "5", "6", "7"))),
    "grinder": Kind(("grinder",), MILLS),
    "four coffees": Kind(("coffee",), each("coffee", "Lot 1", "Lot 2", "Lot 3", "Lot 4")),
    "coffee": Kind(("coffee",), LOTS),
    "brewer": Kind(("brewer",), ({"brewer": "Binnacle", "brewer_type": "flat_bed"}, {"brewer": "Bilge press", "brewer_type": "press_pot"})),
    "water": Kind(("water",), each("water", "Soft", "Hard")),
    "strength": Kind(("strength",), each("bypass_g", 0, 30, 60)),
    "pours": Kind(("pours",), each("pours", "bloom 54 for 40 s, to 170, to 288 by 2:00", "bloom 54 for 40 s, to 288 by 2:00")),
    "bean or mill": Kind(("coffee", "grinder"), crossed(LOTS, MILLS)),
    "ratio or paper": Kind(("ratio", "filter"), crossed(each("brew_water_g", 270, 306), PAPERS)),
}
WITH_RECIPE = ("filter", "three filters", "grinder", "coffee", "water")
RECIPE = "18 g, 288 g at 93, bloom 54 for 40 s, to 288 from 0:40 over 60 s, drips stop, done between 2:00 and 3:00, target 19.5 to 20.7 % EY"
"""Its windows hold the first setups' yields and not the last ones'."""
METHODS = ("ranking", "paired", "triangle", "duo_trio", "tetrad")
TASTES = ("clear", "level", "camps", "noisy", "cooling", "worst last")
STAGES = ("asked", "set up", "brewing", "brewed", "open", "closed", "flipped", "corrected", "two flights", "sighted", "both")
PANELS = (1, 2, 3, 5, 8, 12)
PRICED = (
    ("coffee", "Lot 1", {"price_per_kg": 30}),
    ("coffee", "Lot 2", {"price_per_kg": 52}),
    ("filter", "White weave", {"price_each": 0.05}),
    ("filter", "Thick crêpe", {"price_each": 0.11}),
    ("filter", "Steel mesh", {"price_each": 24, "reusable": True}),
    ("grinder", "Old mill", {"price": 90, "rate_g_s": 1.1}),
    ("grinder", "New mill", {"price": 640, "rate_g_s": 2.4}),
)


@dataclass(frozen=True)
class Spec:
    number: int
    kind: str
    method: str
    taste: str
    stage: str
    tasters: int
    brews: int
    passes: tuple[str, ...]
    read: str

    @property
    def name(self) -> str:
        return f"{self.number} {self.kind}, {self.method}, {self.taste}, {self.stage}, {self.tasters}x{self.brews}, read {self.read}"


def specs() -> list[Spec]:
    """Every kind, method, taste and stage at least once; most are flipped, since that is where most is said."""
    rng = random.Random(SEED)
    kinds, out = list(KINDS), []
    for i in range(HOW_MANY):
        kind = kinds[i % len(kinds)]
        other = KINDS[kind].is_pair and i % 3 == 1
        method = METHODS[i // 3 % len(METHODS)] if other else "scores"
        stage = STAGES[i // 2 % len(STAGES)] if i % 2 else "flipped"
        taste = TASTES[(i + i // len(TASTES)) % len(TASTES)]
        tasters = 12 if taste == "camps" else rng.choice(PANELS)
        passes = ("hot", "cool") if taste == "cooling" or rng.random() < 0.15 else ("warm",)
        out.append(Spec(i, kind, method, taste, stage, tasters, rng.choice((1, 2, 2, 3)), passes, rng.choice(("all", "all", "all", "some", "none"))))
    return out


class Maker:
    """Lays trials out on a bench by hand. priced: the kit has prices; people are asked for once each."""

    def __init__(self, host: Host) -> None:
        self.host = host
        for kind, name, facts in PRICED:
            host.call("POST", "/kit", {"kind": kind, "name": name, kind: facts})
        self.version = host.recipe(RECIPE)["versions"][0]["id"]
        self.people = [host.person(f"Hand {i}") for i in range(max(PANELS))]

    def make(self, spec: Spec) -> str:
        """The trial's id."""
        kind, rng = KINDS[spec.kind], random.Random(spec.number)
        first, *further = kind.factors
        trial = self.host.ask(f"Question {spec.number}?", first, further_factors=further)
        if spec.stage == "asked":
            return trial["id"]
        version = self.version if spec.kind in WITH_RECIPE and spec.number % 2 == 0 else None
        made = [self.host.setup(trial["id"], recipe_version_id=version, **self._whole(own)) for own in kind.setups]
        if spec.stage == "set up":
            return trial["id"]
        runs = [self._brew(trial["id"], s, i, spec, rng) for i, s in enumerate(made) for _ in range(1 if spec.stage == "brewing" else spec.brews)]
        if spec.stage in ("brewing", "brewed"):
            return trial["id"]
        blindings = {"sighted": ("open",), "both": ("open", "shuffle"), "two flights": ("shuffle", "shuffle")}.get(spec.stage, ("shuffle",))
        for blinding in blindings:
            self._taste(trial["id"], runs, spec, rng, blinding)
        if spec.stage == "corrected":
            run = self.host.get(f"/trials/{trial['id']}/results")["runs"][0]
            self.host.call("PATCH", f"/runs/{run['id']}", {"beverage_g": run["beverage_g"] - 3 if run["beverage_g"] else 240}, rev=run["rev"])
        return trial["id"]

    @staticmethod
    def _whole(own: dict) -> dict:
        return {"coffee": "Lot 1", "dose_g": DOSE_G, "brew_water_g": 288} | own

    def _brew(self, trial_id: str, setup: dict, i: int, spec: Spec, rng: random.Random) -> str:
        water = setup["variables"]["brew_water_g"]
        drink = water - KEPT_G_G * DOSE_G + rng.uniform(-2, 2)
        tds = (EY_PCT + 0.6 * i + rng.uniform(-0.3, 0.3)) * DOSE_G / drink
        read = spec.read == "all" or (spec.read == "some" and i % 2 == 0)
        return self.host.brew(
            trial_id,
            setup,
            dose_g=DOSE_G,
            brew_water_g=water,
            beverage_g=round(drink, 1),
            tds=[round(tds + rng.uniform(-0.01, 0.01), 2) for _ in range(3)] if read else (),
            total_time_s=150 + 5 * i,
        )["id"]

    def _taste(self, trial_id: str, runs: list[str], spec: Spec, rng: random.Random, blinding: str) -> None:
        asked = {"method": spec.method, "blinding": blinding, "host_tastes": False}
        if spec.method == "scores":
            asked |= {"attributes": ["sweetness"] if spec.number % 4 == 0 else [], "passes": list(spec.passes)}
        elif spec.method in ("triangle", "duo_trio", "tetrad") or spec.method == "paired":
            runs = [runs[0], runs[-1]]
        else:
            runs = runs[:: spec.brews]
        flight = self.host.flight(trial_id, runs[:12], self.people[: spec.tasters], **asked)
        marks = {m["mark"]: m for m in flight["marks"]}
        by_round: dict = {}
        for cup in flight["cups"]:
            by_round.setdefault(cup["round"], []).append(cup["code"])
        key = {c: m for r, codes in by_round.items() for c, m in zip(codes, [n for n, x in marks.items() if x["round"] == r], strict=True)}
        letters = {code: marks[mark]["letter"] for code, mark in key.items()}
        if blinding == "open":
            letters = {c["code"]: c["letter"] for c in flight["cups"]}
        for i, sheet in enumerate(flight["sheets"]):
            self._answer(sheet, i, letters, spec, rng)
        if spec.stage == "open":
            return
        self.host.call("POST", f"/flights/{flight['id']}/close")
        if spec.stage != "closed" and blinding != "open":
            self.host.call("POST", f"/flights/{flight['id']}/flip", {"marks": [{"code": c, "mark": m} for c, m in key.items()]})

    def _answer(self, sheet: dict, taster: int, letters: dict[str, str], spec: Spec, rng: random.Random) -> None:
        shown = self.host.get(f"/taste/{token(sheet)}")
        touch = self.host.touch
        if spec.method == "ranking":
            order = sorted(letters, key=lambda code: -liking(letters[code], taster, spec, "warm", rng))
            touches = [touch(code, "rank", value=place) for place, code in enumerate(order, 1)]
        elif spec.method != "scores":
            touches = [
                touch(r["cell"], "pick", text=rng.choice(r["codes"]))
                if spec.method != "tetrad"
                else touch(r["cell"], "pick", text=" ".join(sorted(rng.sample(r["codes"], 2))))
                for r in shown["rounds"]
            ]
        else:
            touches = [
                touch(code, a["code"], value=liking(letters[code], taster, spec, p["name"], rng)) | {"pass_name": p["name"]}
                for code in letters
                for p in shown["passes"]
                for a in shown["attributes"]
            ]
        self.host.score(sheet, *touches)


def liking(letter: str, taster: int, spec: Spec, pass_name: str, rng: random.Random) -> float:
    """A score from 1 to 9, in half points."""
    n, at = len(KINDS[spec.kind].setups), "ABCDEFGHIJ".index(letter)
    match spec.taste:
        case "clear":
            true, noise = 8 - 1.8 * at, 0.4
        case "level":
            true, noise = 7.0, 0.0
        case "camps":
            true, noise = (8 - 5 * at / (n - 1) if taster % 2 else 3 + 5 * at / (n - 1)), 0.4
        case "cooling":
            true, noise = (7.5 - at if pass_name == "hot" else 5.5 + at), 0.4
        case "worst last":
            true, noise = (3.5 if at == n - 1 else 7.0), 0.5
        case _:
            true, noise = 6 + 0.3 * at, 1.4
    return min(9.0, max(1.0, round(2 * (true + rng.gauss(0, noise))) / 2))
