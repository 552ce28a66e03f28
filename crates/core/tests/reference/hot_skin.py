"""Skin in the heat: its temperature and its water together, by SciPy's LSODA.

C dT/dt = h (T_air - T) - J * latent - (T - T_below)/R
dM/dt   = -J / dry,   J = open * k_m * M_w/(R T) * (a_w(M) * p_sat(T) - p_v)
Oswin's isotherm, saturation pressure by ASHRAE's equation 6. Skin of 2 mm over fat, 70 C below it, 15 C at the start.
Run: python3 hot_skin.py > hot_skin.csv
"""

import math
from scipy.integrate import solve_ivp

STEAM_H, VAPOUR, THICK, BELOW, LATENT = 25.0, 1200.0, 0.002, 70.0, 2.36e6
DENSITY, WATER, HALF, POWER = 1100.0, 0.62, 0.12, 0.45
DRY = THICK * DENSITY * (1 - WATER)
FRESH = WATER / (1 - WATER)


def p_sat(c):
    t = c + 273.15
    return math.exp(
        -5.8002206e3 / t + 1.3914993 - 4.8640239e-2 * t + 4.1764768e-5 * t**2 - 1.4452093e-8 * t**3 + 6.5459673 * math.log(t)
    )


def activity(m):
    ratio = (max(m, 0.0) / HALF) ** (1 / POWER)
    return ratio / (1 + ratio)


def steam(c, m, share):
    t = c + 273.15
    k_m = STEAM_H / (101325.0 / (287.05 * t) * 1006.0 * 0.86 ** (2 / 3))
    return share * k_m * 0.01801528 / (8.314462618 * t) * (activity(m) * p_sat(c) - VAPOUR)


print("# dryness at the start, fat mm, air C, h, open, minutes, surface C then, dryness then")
for start in (0.0, 0.6, 0.97):
    for fat, air, h, share in ((8, 175, 25, 1.0), (8, 245, 25, 1.0), (3, 120, 25, 1.0), (8, 160, 25, 0.25), (5, 215, 60, 1.0)):
        lets = 1 / (THICK / 0.15 + fat / 1000 / 0.17)
        holds = THICK * 1100 * 3000 + fat / 2000 * 920 * 2300

        def rate(_, y):
            j = steam(y[0], y[1], share)
            return [(h * (air - y[0]) - j * LATENT - lets * (y[0] - BELOW)) / holds, -j / DRY]

        first = [15.0, FRESH - start * (FRESH - HALF)]
        ends = (8, 20, 60)
        out = solve_ivp(rate, (0, 3600), first, method="LSODA", rtol=1e-9, atol=1e-12, t_eval=[m * 60 for m in ends])
        for i, m in enumerate(ends):
            print(f"{start},{fat},{air},{h},{share},{m},{out.y[0][i]:.3f},{(FRESH - out.y[1][i]) / (FRESH - HALF):.5f}")
