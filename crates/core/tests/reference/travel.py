#!/usr/bin/env python3
"""Reference vectors for salt travel, by SciPy's solve_ivp (BDF) on a grid twice as fine as the test's.

The same equation as crates/core/src/salt/travel, written down again: layers in
series, finite doses, the store at the surface (first order, 25 min, capped by a surface saturated in its water),
temperature through one activation energy. Run by hand: python3 travel.py > travel.csv (needs scipy).
CI does not run it; the test reads travel.csv.
"""
import math

import numpy as np
from scipy.integrate import solve_ivp

RHO, TAU, SAT = 1060.0, 1500.0, 0.357
WATER = {"skin": 0.62, "fat": 0.12, "lean": 0.74}
D4 = {"skin": 2.5e-10 / 5, "fat": 2.5e-10 / 30, "lean": 2.5e-10}


def rate(celsius):
    return math.exp(-25000.0 / 8.314462618 * (1 / (celsius + 273.15) - 1 / 277.15))


def run(layers, top, bottom, temperatures, cell_mm=0.1, inside=0.0, changes=()):
    """layers [(tissue, mm)], loads in g/dm2, temperatures [(hours, celsius)]; g/kg per cell at the end.

    inside: g/kg evenly in the lean from the start. changes: after stretch i of the temperatures, (i, end, g/dm2) more
    (or, negative, less, never more than waits) dry salt on an end."""
    dx, eps, diff = [], [], []
    for tissue, mm in layers:
        n = max(2, math.ceil(mm / cell_mm))
        dx += [mm / 1000 / n] * n
        eps += [WATER[tissue]] * n
        diff += [D4[tissue]] * n
    dx, eps, diff = map(np.array, (dx, eps, diff))
    capacity = RHO * eps * dx
    half = dx / 2 / (RHO * eps * diff)
    between = 1 / (half[:-1] + half[1:])
    lean = np.concatenate([[tissue == "lean"] * max(2, math.ceil(mm / cell_mm)) for tissue, mm in layers])
    state = np.concatenate([[top / 10, bottom / 10], np.where(lean, inside / 1000 / eps, 0.0)])

    def slope(_, y, k):
        store, c = y[:2], y[2:]
        flow = k * between * (c[:-1] - c[1:])
        dc = np.zeros_like(c)
        dc[:-1] -= flow
        dc[1:] += flow
        enter = []
        for end, cell in ((0, 0), (1, -1)):
            lets_in = k / half[cell] * (SAT - c[cell])
            enter.append(max(min(store[end] / TAU, lets_in), 0.0))
        dc[0] += enter[0]
        dc[-1] += enter[1]
        return np.concatenate([[-enter[0], -enter[1]], dc / capacity])

    n = len(dx)
    lower = np.zeros((n + 2, n + 2))
    for i in range(n):
        for j in (i - 1, i, i + 1):
            if 0 <= j < n:
                lower[2 + i, 2 + j] = 1
    lower[0, 0] = lower[1, 1] = lower[0, 2] = lower[1, -1] = lower[2, 0] = lower[-1, 1] = 1
    for stretch, (hours, celsius) in enumerate(temperatures):
        k = rate(celsius)
        solved = solve_ivp(slope, (0, hours * 3600), state, method="BDF", args=(k,), rtol=1e-8, atol=1e-12, jac_sparsity=lower)
        state = solved.y[:, -1]
        for _, end, more in (c for c in changes if c[0] == stretch):
            state[end] = max(state[end] + more / 10, 0.0)
    edges = np.cumsum(dx) * 1000
    return edges, state[2:] * eps * 1000, state[:2] * 10


CASES = {
    "belly": ([("skin", 2.5), ("fat", 8.0), ("lean", 34.5)], 0.0, 2.0, [(24, 4)]),
    "belly-72h": ([("skin", 2.5), ("fat", 8.0), ("lean", 34.5)], 0.0, 2.0, [(72, 4)]),
    "duck": ([("skin", 2.0), ("fat", 4.5), ("lean", 28.5)], 0.6, 2.4, [(24, 4)]),
    "steak": ([("lean", 38.0)], 1.0, 1.0, [(21, 4)]),
    "heavy-crust": ([("lean", 30.0)], 20.0, 0.0, [(2, 4)]),
    "warm-then-cold": ([("lean", 25.0)], 1.5, 1.5, [(1, 22), (12, 2), (3, 15)]),
    "one-face": ([("lean", 34.5)], 0.0, 2.0, [(24, 4)]),
    "injected": ([("skin", 1.5), ("fat", 1.0), ("lean", 47.5)], 0.5, 1.0, [(36, 3)], 6.0),
    "added-midway": ([("lean", 30.0)], 0.0, 1.2, [(6, 4), (18, 4)], 0.0, [(0, 1, 0.9)]),
    "brushed-off": ([("lean", 38.0)], 3.0, 3.0, [(0.5, 4), (20, 4)], 0.0, [(0, 0, -1.5), (0, 1, -1.5)]),
    "to-the-table": ([("skin", 2.5), ("fat", 8.0), ("lean", 34.5)], 0.0, 2.0, [(24, 4), (0.5, 12), (1, 40), (0.5, 65), (0.3, 60)]),
}

if __name__ == "__main__":
    print("# case, depth_mm from the top, g/kg of tissue there; the last line of a case: waiting top, waiting bottom (g/dm2)")
    for name, (layers, top, bottom, temperatures, *more) in CASES.items():
        inside, changes = (*more, 0.0, ())[:2] if len(more) != 1 else (more[0], ())
        edges, g_per_kg, waiting = run(layers, top, bottom, temperatures, inside=inside, changes=changes)
        middles = edges - np.diff(np.concatenate([[0], edges])) / 2
        thick = edges[-1]
        borders = np.cumsum([mm for _, mm in layers])[:-1]
        for depth in np.linspace(0.5, thick - 0.5, 24):
            if len(borders) == 0 or min(abs(borders - depth)) > 0.5:
                print(f"{name},{depth:.4f},{np.interp(depth, middles, g_per_kg):.6f}")
        print(f"{name},waiting,{waiting[0]:.6f},{waiting[1]:.6f}")
