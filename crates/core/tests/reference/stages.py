#!/usr/bin/env python3
"""Reference vectors for stages of heat, by SciPy (solve_ivp, BDF) on 200 layers, wetness of each face as a state of its own.

The equation of docs/TRADE.md 9.1 written down again: conduction in a slab, cylinder or sphere, and at each face
q = h (T_air - T_s) - w k_m (p_v(T_s) - p_v,air) M/(R T) latent, w the larger of w0 exp(-E/E0) and a floor that ends with the juice
under it, k_m by the film of the air. p_v rises no further than at 100 C, nor does any layer deeper than 1.5 mm. The surface's own temperature is solved for by
Brent's rule (scipy.optimize.brentq), not by Newton's. Run by hand: python3 stages.py > stages.csv (needs scipy and psychrolib). CI
does not run it; the tests read stages.csv.

A row: name, minutes since the heat began, core in C. The stages are those of the test of the same name.
"""
import numpy as np
import psychrolib
from scipy.integrate import solve_ivp
from scipy.optimize import brentq

psychrolib.SetUnitSystem(psychrolib.SI)
K, RHO_C, LATENT, AIR_VAPOUR = 0.48, 1060.0 * 3500.0, 2.36e6, 1200.0
W0, E0, FLOOR, GIVES, SUDDEN, BOILS = 0.3, 2.0, 0.15, 0.3, 10, 100.0
R, M_W = 8.314462618, 0.01801528
N = 200


def wetness(lost, supply):
    return max(W0 * np.exp(-lost / E0), FLOOR * np.exp(-((lost / supply) ** SUDDEN)))


def surface(inside, air, h, steam, wet, half):
    """Surface temperature, and kg/(m2 s) that leave it."""

    def leaves(t):
        if wet <= 0.0:
            return 0.0
        film = (t + air) / 2 + 273.15
        k_m = steam / (101325 / (287.05 * film) * 1006 * 0.86 ** (2 / 3))
        excess = psychrolib.GetSatVapPres(min(max(t, -20.0), BOILS)) - AIR_VAPOUR
        return wet * k_m * M_W / (R * film) * max(excess, 0.0)

    def balance(t):
        return h * (air - t) - leaves(t) * LATENT - K / half * (t - inside)

    t = brentq(balance, min(inside, air) - 60.0, max(inside, air) + 1.0, xtol=1e-9)
    return t, leaves(t)


def run(power, thick, two_faces, start, stages, each=5.0):
    """Core after every so many minutes. `thick` is the radius in m, or the whole slab where both faces are followed."""
    dr = thick / N
    edge = np.arange(N + 1) * dr
    area = edge**power if power else np.ones(N + 1)
    volume = (edge[1:] ** (power + 1) - edge[:-1] ** (power + 1)) / (power + 1)
    supply = GIVES * 1060.0 * (thick / 2 if two_faces else thick / (power + 1))
    state = np.concatenate([np.full(N, start), [0.0, 0.0]])
    rows, now = [], 0.0

    def slopes(fire, away):
        def slope(_, y):
            t, (e_out, e_in) = y[:N], y[N:]
            flow = np.zeros(N + 1)
            flow[1:N] = K * area[1:N] * (t[:-1] - t[1:]) / dr
            ts, gone = surface(t[-1], *fire[:3], fire[3] * wetness(e_out, supply), dr / 2)
            flow[N] = K * area[N] * (t[-1] - ts) / (dr / 2)
            back = 0.0
            if two_faces:
                ts, back = surface(t[0], *away[:3], away[3] * wetness(e_in, supply), dr / 2)
                flow[0] = K * (ts - t[0]) / (dr / 2)
            warms = (flow[:-1] - flow[1:]) / (RHO_C * volume)
            # 1.5 mm by whole layers of the program, which has 40 of them, or 60 where both faces are followed.
            layer = thick / (60 if two_faces else 40)
            crust = round(max(1, round(1.5e-3 / layer)) * layer / dr)
            inner = np.arange(N) < N - crust
            inner[:crust] &= not two_faces
            warms[inner & (t >= BOILS) & (warms > 0)] = 0.0
            return np.concatenate([warms, [gone, back]])

        return slope

    def core(y):
        return (y[N // 2 - 1] + y[N // 2]) / 2 if two_faces else y[0]

    for fire, away, minutes, flip in stages:
        left = minutes
        while left > 1e-9:
            piece = min(flip or minutes, left)
            at = np.unique(np.append(np.arange(each, piece, each), piece)) * 60.0
            sparse = np.zeros((N + 2, N + 2))
            for i in range(N):
                sparse[i, max(0, i - 1) : min(N, i + 2)] = 1
            sparse[[0, N - 1, N, N + 1], N:] = 1
            sparse[N, N - 1] = sparse[N + 1, 0] = 1
            solved = solve_ivp(slopes(fire, away), (0, piece * 60.0), state, method="BDF", t_eval=at, rtol=1e-7, atol=1e-7, jac_sparsity=sparse)
            rows += [(now + t / 60.0, core(solved.y[:, i])) for i, t in enumerate(solved.t)]
            state, now, left = solved.y[:, -1].copy(), now + piece, left - piece
            if flip and left > 1e-9:
                state[:N] = state[:N][::-1]
                state[N:] = state[N:][::-1]
    return rows


def around(air, h=25.0, wet=1.0, steam=25.0):
    return (air, h, steam, wet)


def under_foil(air):
    """Steam at 100 C by 10 W/m2K, and by 25 the radiation of a foil halfway between it and the oven."""
    inside = min(air, 100.0)
    return around((10.0 * inside + 25.0 * (inside + air) / 2) / 35.0, 35.0, 0.0)


CASES = {
    "open-slab": (0, 0.0225, False, 5.0, [(around(177.0), None, 80.0, None)]),
    "open-then-wrapped": (1, 0.050, False, 5.0, [(around(163.0), None, 60.0, None), (under_foil(135.0), None, 60.0, None)]),
    "leaf-wrapped": (2, 0.060, False, 5.0, [(around(150.0, 25.0, 0.25), None, 120.0, None)]),
    "in-liquid": (0, 0.025, False, 8.0, [(around(96.0, 200.0, 0.0), None, 60.0, None)]),
    "direct-turned": (0, 0.038, True, 8.0, [(around(230.0, 60.0), around(22.0 + 208.0 * 2 / 3, 20.0, steam=20.0), 28.0, 4.0)]),
    "pan-one-side": (0, 0.025, True, 5.0, [(around(160.0, 300.0), around(40.0, 9.0, steam=9.0), 12.0, None), (around(160.0, 300.0), around(40.0, 9.0, steam=9.0), 8.0, 2.0)]),
}

print("# " + __doc__.split("\n")[0])
for name, case in CASES.items():
    for minutes, core in run(*case):
        print(f"{name},{minutes:.4f},{core:.5f}")
