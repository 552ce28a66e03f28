#!/usr/bin/env python3
"""Reference vectors for moist air and drying skin, by psychrolib (p_sat) and SciPy (solve_ivp, LSODA).

The same equations as crates/core/src/skin, written down again from docs/TRADE.md, section 6. Run by hand:
python3 drying.py > drying.csv (needs scipy and psychrolib). CI does not run it; the tests read drying.csv.
"""
import psychrolib
from scipy.integrate import solve_ivp

psychrolib.SetUnitSystem(psychrolib.SI)
R, M_W, DRY_SHARE, FRESH = 8.314462618, 0.01801528, 0.38, 0.62 / 0.38


def flux(celsius, humidity, h, activity):
    """kg/(m2 s) off a surface of this water activity."""
    t = celsius + 273.15
    k_m = h / (101325 / (287.05 * t) * 1006 * 0.86 ** (2 / 3))
    return k_m * M_W / (R * t) * psychrolib.GetSatVapPres(celsius) * (activity - humidity)


def skin(mm, celsius, humidity, h, hours):
    """Moisture (kg/kg dry) of bare skin after each of some hours."""
    dry = mm / 1000 * 1100 * DRY_SHARE

    def slope(_, m):
        ratio = (m[0] / 0.12) ** (1 / 0.45)
        return [-flux(celsius, humidity, h, ratio / (1 + ratio)) / dry]

    solved = solve_ivp(slope, (0, max(hours) * 3600), [FRESH], method="LSODA", t_eval=[x * 3600 for x in hours], rtol=1e-9, atol=1e-11)
    return solved.y[0], dry


if __name__ == "__main__":
    print("# p_sat, celsius, Pa")
    for celsius in [-10, -5, -2, -0.5, 0.5, 1, 2, 3, 4, 5, 7, 10, 15, 20, 22, 30, 60, 100]:
        print(f"p_sat,{celsius},{psychrolib.GetSatVapPres(celsius):.4f}")
    print("# skin, mm, celsius, humidity, h, hours, dryness, g/dm2 lost")
    for mm, celsius, humidity, h in [(2.0, 4, 0.5, 5), (2.0, 4, 0.75, 4), (2.5, 4, 0.5, 5), (3.0, 4, 0.5, 5), (1.0, 2, 0.8, 15), (3.5, 7, 0.3, 8)]:
        hours = [2, 8, 16, 24, 26, 48, 65, 96]
        moisture, dry = skin(mm, celsius, humidity, h, hours)
        for at, m in zip(hours, moisture):
            print(f"skin,{mm},{celsius},{humidity},{h},{at},{(FRESH - m) / (FRESH - 0.12):.6f},{dry * (FRESH - m) * 10:.6f}")
    print("# belly, hours, grams lost: 6.6 dm2 of 2 mm skin at 4 C, 50 %, h 5")
    moisture, dry = skin(2.0, 4, 0.5, 5, [1e-6, 8, 16, 24])
    for at, m in zip([0, 8, 16, 24], moisture):
        print(f"belly,{at},{6.6 * dry * (FRESH - m) * 10:.6f}")
