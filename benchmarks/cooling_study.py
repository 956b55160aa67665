"""When a pass opens: predicted from two, three and four readings, against a simulated cup whose physics the model does not share.

    PYTHONPATH=src .venv/bin/python benchmarks/cooling_study.py

The cup: a cylinder of 80 to 250 g with walls that convect (∝ ΔT^1.25), radiate (T⁴) and conduct to the table, and a surface that evaporates by Stefan flow, open or under a lid that lets a tenth of
it out. Read with a thermometer that is off by up to 0.3 °C and rounds to whole degrees.
"""

from __future__ import annotations

import math

import numpy as np

from brasspenny.core.tasting.serving import serving

TARGETS_C = (60.0, 50.0, 42.0, 35.0)
READ_NEAR, NEAR_C = -1, 6.0
"""How far above the pass it is read again."""
READ_AT_S = {2: (0, 300), 3: (0, 240, 540), 4: (0, 240, 540, 900)}


def course(mass_g: float, lid: bool, ambient_c: float, start_c: float, wall: float) -> tuple[np.ndarray, np.ndarray]:
    """Times, s, and temperatures, °C."""
    radius = 0.034 * (mass_g / 200) ** (1 / 3)
    height = mass_g * 1e-6 / (math.pi * radius**2)
    top, side = math.pi * radius**2, 2 * math.pi * radius * height + math.pi * radius**2
    t, step, out = start_c, 2.0, [start_c]
    ta = ambient_c + 273.15
    for _ in range(int(4 * 3600 / step)):
        tk, d = t + 273.15, max(0.0, t - ambient_c)
        surface = t - 0.04 * d
        p, pa = (610.94 * math.exp(17.625 * x / (x + 243.04)) for x in (surface, ambient_c))
        convects = 1.9 * d**1.25 * (wall * side + 1.2 * top * (0.5 if lid else 1))
        radiates = 0.85 * 5.67e-8 * (tk**4 - ta**4) * (0.7 * wall * side + top * (0.4 if lid else 1))
        conducts = 3.0 * top * d
        stefan = math.log((101_325 - 0.5 * pa) / (101_325 - p)) * 101_325
        evaporates = 0.0145 * (0.6 * d**0.25 + 0.4) * stefan * top * (0.1 if lid else 1.0) * 2.45
        t -= step * (convects + radiates + conducts + evaporates) / (mass_g * 4.18 + 60)
        out.append(t)
    return np.arange(len(out)) * step, np.array(out)


def errors(seed: int = 3, cups: int = 120) -> dict[int, dict[float, list[float]]]:
    """Readings → target → relative errors of the time from the first reading to the opening."""
    rng = np.random.default_rng(seed)
    found: dict[int, dict[float, list[float]]] = {n: {c: [] for c in TARGETS_C} for n in (*READ_AT_S, READ_NEAR)}
    for i in range(cups):
        times, temps = course(rng.uniform(80, 250), bool(i % 2), ambient := rng.uniform(18, 25), rng.uniform(74, 80), rng.uniform(0.5, 1.0))
        off = rng.uniform(-0.3, 0.3)
        for count, at in READ_AT_S.items():
            read = [(float(s), round(float(np.interp(s, times, temps)) + off)) for s in at]
            cup = serving(read, ambient_c=round(ambient)).cup
            for target in TARGETS_C:
                if near := next((s for s in range(at[-1] + 60, 12_000, 60) if np.interp(s, times, temps) <= target + NEAR_C), None):
                    again = [*read, (float(near), round(float(np.interp(near, times, temps)) + off))]
                    left = serving(again, ambient_c=round(ambient)).cup.reaches(again[-1][1], target)
                    truth = float(np.interp(-target, -temps, times))
                    if left is not None and count == 2:
                        found[READ_NEAR][target].append((near + left) / truth - 1)
                if (left := cup.reaches(read[-1][1], target)) and target < temps[-1] + 60:
                    truth = float(np.interp(-target, -temps, times))
                    if truth > at[-1]:
                        found[count][target].append((at[-1] + left) / truth - 1)
    return found


def main() -> None:
    print("readings   target   median   worst tenth   within 8 %")
    for count, by in errors().items():
        for target, all_ in by.items():
            if all_:
                x = np.array(all_)
                print(
                    f"{count if count != READ_NEAR else '2 + near':>8} {target:>7.0f} °C {100 * np.median(x):+7.1f} % {100 * np.quantile(np.abs(x), 0.9):10.1f} % {100 * (np.abs(x) <= 0.08).mean():10.0f} %"
                )


if __name__ == "__main__":
    main()
