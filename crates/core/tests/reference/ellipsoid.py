#!/usr/bin/env python3
"""Heating of dry ellipsoids in three dimensions, by finite elements: how the middle warms.

Run by hand: python3 ellipsoid.py > ellipsoid.csv (needs numpy, scipy, scikit-fem). CI does not run it; tests read the csv.

The conduction equation in an ellipsoid of half-axes L <= b1*L <= b2*L with a film at its surface (Bi = h*L/k), from one
temperature throughout into air at another. Quadratic elements on a ball stretched to the ellipsoid (the ball's volume is
set right), Crank-Nicolson in time after four backward steps.

Rows "fit": the body of one dimension (area ~ r^power, radius = stretch*L) whose middle follows most closely, by least squares,
until a fifth of the distance to the air is left; this is the table crates/core/src/fire/ellipsoid.rs goes by.

Rows "held" and "fierce" are not fitted to: what share of its way to the air the middle has gone at six times (Fo = at/L^2),
in steady air and after a start (Fo 0.05) in air twice as far above the beginning, of shapes between those of the table, too.
"""
import sys

import numpy as np
from scipy.optimize import least_squares
from scipy.sparse import diags
from scipy.sparse.linalg import factorized
from skfem import Basis, BilinearForm, ElementTetP2, FacetBasis, LinearForm, MeshTet

# Of the distance to the air so much is left when the fit ends.
LEFT = 0.2
DT = 0.0025
# The fierce start: so many steps, so many times the rise.
FIERCE = (20, 2.0)
MESH = MeshTet.init_ball(3)


@BilinearForm
def mass(u, v, _):
    return u * v


@BilinearForm
def film(u, v, _):
    return u * v


@LinearForm
def film_load(v, _):
    return 1.0 * v


def ball():
    """Points of the ball, scaled so that its volume is that of a ball of radius 1."""
    basis = Basis(MESH, ElementTetP2())
    volume = mass.assemble(basis).sum()
    return MESH.scaled((4 / 3 * np.pi / volume) ** (1 / 3))


BALL = ball()


def march(m, k, steps, middle):
    """What is left of the middle's distance to steady air, at 0, DT, 2 DT …"""
    theta = np.ones(m.shape[0])
    euler, half = factorized(m + DT / 4 * k), factorized(m + DT / 2 * k)
    for _ in range(4):
        theta = euler(m @ theta)
    left = [1.0, theta[middle]]
    while len(left) <= steps if steps else left[-1] > LEFT:
        theta = half(m @ theta - DT / 2 * (k @ theta))
        left.append(theta[middle])
    return np.array(left)


def three_dimensions(b1, b2, biot):
    """The middle of the ellipsoid; lengths in units of the shortest half-axis."""
    mesh = BALL.scaled([1.0, b1, b2])

    @BilinearForm
    def stiffness(u, v, _):
        return u.grad[0] * v.grad[0] + u.grad[1] * v.grad[1] + u.grad[2] * v.grad[2]

    basis, facets = Basis(mesh, ElementTetP2()), FacetBasis(mesh, ElementTetP2())
    m = mass.assemble(basis).tocsc()
    k = (stiffness.assemble(basis) + biot * film.assemble(facets)).tocsc()
    # The middle of the ball is a vertex of the mesh.
    middle = int(np.argmin((basis.doflocs**2).sum(axis=0)))
    assert (basis.doflocs[:, middle] ** 2).sum() < 1e-12
    return march(m, k, None, middle)


def one_dimension(power, stretch, biot, steps, cells=200):
    """The middle of a body whose area goes with a power of the distance from it."""
    edges = np.linspace(0, stretch, cells + 1)
    dr = stretch / cells
    volume = np.diff(edges ** (power + 1)) / (power + 1)
    between = edges[1:-1] ** power / dr
    main = np.zeros(cells)
    main[:-1] += between
    main[1:] += between
    main[-1] += stretch**power / (1 / biot + dr / 2)
    k = diags([-between, main, -between], [-1, 0, 1]).tocsc()
    return march(diags([volume], [0]).tocsc(), k, steps, 0)


def fitted(b1, b2, biot):
    left = three_dimensions(b1, b2, biot)
    off = lambda x: one_dimension(x[0], x[1], biot, len(left) - 1) - left
    start = [2.0 / (b1 * b1) + 2.0 / (b2 * b2) if b1 > 1 else 1.0 + 1.0 / b2, 1.05]
    fit = least_squares(off, start, bounds=([0.0, 0.8], [3.0, 1.8]), xtol=1e-6)
    return *fit.x, np.abs(fit.fun).max()


def gone(b1, b2, biot):
    """Shares of the way to the air, in steady air and after a fierce start."""
    left = three_dimensions(b1, b2, biot)
    held = 1 - left
    steps, times = FIERCE
    # Linear: the start's surplus ends when the fierce air does.
    fierce = times * held
    fierce[steps:] -= (times - 1) * held[: len(held) - steps]
    at = np.linspace(0, len(left) - 1, 7).astype(int)[1:]
    return at * DT, held[at], fierce[at]


SHAPES = [1.0, 1.25, 1.5, 2.0, 3.0, 5.0]
BETWEEN = [(1.0, 1.1), (1.1, 1.35), (1.3, 1.8), (1.4, 2.5), (1.75, 2.4), (1.2, 4.0), (2.5, 4.0)]

if __name__ == "__main__":
    print("# fit, b1, b2, Bi, power, stretch, furthest off")
    for i, b1 in enumerate(SHAPES):
        for b2 in SHAPES[i:]:
            for biot in (1.0, 2.0, 4.0, 8.0):
                power, stretch, furthest = fitted(b1, b2, biot)
                print(f"fit,{b1},{b2},{biot},{power:.3f},{stretch:.4f},{furthest:.4f}")
                sys.stdout.flush()
    print("# held | fierce, b1, b2, Bi, then Fo and the share of the way gone, six times")
    for b1, b2 in [(a, b) for i, a in enumerate(SHAPES[:5]) for b in SHAPES[i:5]] + BETWEEN:
        for biot in (1.4, 3.0, 6.0):
            at, held, fierce = gone(b1, b2, biot)
            for name, course in (("held", held), ("fierce", fierce)):
                print(f"{name},{b1},{b2},{biot}," + ",".join(f"{t:.4f},{y:.5f}" for t, y in zip(at, course)))
            sys.stdout.flush()
