#!/usr/bin/env python3
"""72 hours of salt through a layered 45 mm piece, 450 cells: our solver against SciPy's, at equal error, in one run.

Run by hand from the repository: python3 crates/core/tests/reference/solver_race.py (needs scipy; builds the release
bench). CI does not run it. With --reference it only writes solver_race.csv, which the bench measures its error by:
the same equation on a grid nine times as fine (4050 cells), by Radau to tolerances of 1e-10, at the middles of the
450 cells. Both programs' errors are the largest difference from it, as a share of the mean.

SciPy's run is solve_ivp with LSODA and its banded Jacobian (lband, uband); the unknowns are ordered top store, cells,
bottom store, so that the band is one wide. Its right side is vectorised; no Python loop runs over cells.
"""
import os
import re
import subprocess
import sys
import time

import numpy as np
from scipy.integrate import solve_ivp
from scipy.sparse import diags

RHO, TAU, SAT, D_LEAN = 1060.0, 1500.0, 0.357, 2.5e-10
LAYERS = [(0.62, D_LEAN / 5, 2.5), (0.12, D_LEAN / 30, 8.0), (0.74, D_LEAN, 34.5)]
HERE = os.path.dirname(os.path.abspath(__file__))


def problem(cells):
    """Slope and start of the column cut into so many equal cells; 2 g/dm2 wait on the bottom."""
    dx = 0.045 / cells
    counts = [round(mm / 45.0 * cells) for _, _, mm in LAYERS]
    assert sum(counts) == cells
    eps = np.concatenate([[e] * n for (e, _, _), n in zip(LAYERS, counts)])
    diff = np.concatenate([[d] * n for (_, d, _), n in zip(LAYERS, counts)])
    capacity = RHO * eps * dx
    half = dx / 2 / (RHO * eps * diff)
    between = 1 / (half[:-1] + half[1:])
    ends = (1 / half[0], 1 / half[-1])
    saturated = (SAT, SAT)

    def slope(_, y):
        c = y[1:-1]
        flow = between * (c[:-1] - c[1:])
        out = np.empty_like(y)
        top = min(y[0] / TAU, max(ends[0] * (saturated[0] - c[0]), 0.0))
        bottom = min(y[-1] / TAU, max(ends[1] * (saturated[1] - c[-1]), 0.0))
        d = out[1:-1]
        d[:] = 0.0
        d[:-1] -= flow
        d[1:] += flow
        d[0] += top
        d[-1] += bottom
        d /= capacity
        out[0], out[-1] = -top, -bottom
        return out

    start = np.zeros(cells + 2)
    start[-1] = 0.2
    return slope, start, eps


def reference():
    slope, start, eps = problem(4050)
    n = len(start)
    pattern = diags([np.ones(n - 1), np.ones(n), np.ones(n - 1)], [-1, 0, 1])
    solved = solve_ivp(slope, (0, 72 * 3600), start, method="Radau", rtol=1e-10, atol=1e-14, jac_sparsity=pattern)
    fine = solved.y[1:-1, -1] * eps * 1000
    return fine[4::9]  # nine fine cells lie in a coarse one, the fifth in its middle


def write(path, values):
    with open(path, "w") as out:
        print("# depth mm, g/kg of tissue: layered 45 mm, 2 g/dm2 on the bottom, 72 h at 4 C; by solver_race.py --reference", file=out)
        for i, value in enumerate(values):
            print(f"{(i + 0.5) * 0.1:.2f},{value:.9f}", file=out)


def main():
    path = os.path.join(HERE, "solver_race.csv")
    if "--reference" in sys.argv:
        write(path, reference())
        return
    want = np.loadtxt(path, delimiter=",")[:, 1]
    mean = want.mean()
    slope, start, eps = problem(450)
    print("SciPy solve_ivp, LSODA, banded, 450 cells:")
    for rtol in [1e-3, 1e-4, 1e-5, 1e-6, 1e-8]:
        took = []
        for _ in range(5):
            begun = time.perf_counter()
            solved = solve_ivp(slope, (0, 72 * 3600), start, method="LSODA", rtol=rtol, atol=rtol * 1e-4, lband=1, uband=1)
            took.append(time.perf_counter() - begun)
        error = np.max(np.abs(solved.y[1:-1, -1] * eps * 1000 - want)) / mean
        print(f"  rtol {rtol:.0e}: error {error:.1e} of the mean, {min(took) * 1000:.1f} ms, {solved.nfev} slopes")
    print("Ours, by cargo bench:")
    bench = subprocess.run(
        ["cargo", "bench", "-q", "-p", "rauchkeller-core", "--bench", "plan", "--", "travel 72 h/layered 45 mm with store/450"],
        cwd=HERE, capture_output=True, text=True, check=True).stdout
    for line in bench.splitlines():
        if re.search(r"450 cells, 72 h: error|time:", line):
            print("  " + line.strip())


if __name__ == "__main__":
    main()
