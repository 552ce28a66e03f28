#!/usr/bin/env python3
"""Heating of dry ellipsoids in three dimensions, by finite elements: how long until the middle is warm.

Run by hand: python3 ellipsoid.py > ellipsoid.csv (needs numpy, scipy, scikit-fem). CI does not run it; tests read the csv.

The conduction equation in an ellipsoid of half-axes L <= b1*L <= b2*L with a film at its surface (Bi = h*L/k), from one
temperature throughout into air at another. Quadratic elements on a ball stretched to the ellipsoid (the ball's volume is
set right), Crank-Nicolson in time after four backward steps. Written out: Fo = at/L^2 at which the middle has lost three
fifths of its distance to the air, and the power of a one-dimensional body (area ~ r^power) that takes as long; the latter
is the table crates/core/src/fire/ellipsoid.rs goes by.
"""
import sys

import numpy as np
from scipy.optimize import brentq
from scipy.sparse import diags
from scipy.sparse.linalg import factorized
from skfem import Basis, BilinearForm, ElementTetP2, FacetBasis, LinearForm, MeshTet

Y = 0.4
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


def three_dimensions(b1, b2, biot, dt=0.004):
    """Fo at which the middle reaches Y; lengths in units of the shortest half-axis."""
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
    theta = np.ones(m.shape[0])
    euler, half = factorized(m + dt / 4 * k), factorized(m + dt / 2 * k)
    for _ in range(4):
        theta = euler(m @ theta)
    at, before = dt, theta[middle]
    while theta[middle] > Y:
        before = theta[middle]
        theta = half(m @ theta - dt / 2 * (k @ theta))
        at += dt
    return at - dt * (Y - theta[middle]) / (before - theta[middle])


def one_dimension(power, biot, cells=400, dt=0.002):
    """The same for a body whose area goes with a power of the distance from its middle."""
    edges = np.linspace(0, 1, cells + 1)
    dr = 1 / cells
    volume = np.diff(edges ** (power + 1)) / (power + 1)
    between = edges[1:-1] ** power / dr
    surface = 1 / (1 / biot + dr / 2)
    main = np.zeros(cells)
    main[:-1] += between
    main[1:] += between
    main[-1] += surface
    k = diags([-between, main, -between], [-1, 0, 1]).tocsc()
    m = diags([volume], [0]).tocsc()
    euler, half = factorized(m + dt / 4 * k), factorized(m + dt / 2 * k)
    theta = np.ones(cells)
    for _ in range(4):
        theta = euler(m @ theta)
    at, before = dt, theta[0]
    while theta[0] > Y:
        before = theta[0]
        theta = half(m @ theta - dt / 2 * (k @ theta))
        at += dt
    return at - dt * (Y - theta[0]) / (before - theta[0])


SHAPES = [1.0, 1.25, 1.5, 2.0, 3.0, 5.0]

if __name__ == "__main__":
    print("# b1, b2, Bi, Fo in three dimensions, power of the one-dimensional body")
    for i, b1 in enumerate(SHAPES):
        for b2 in SHAPES[i:]:
            for biot in (1.0, 2.0, 4.0, 8.0):
                fo = three_dimensions(b1, b2, biot)
                power = brentq(lambda p: one_dimension(p, biot) - fo, 0.0, 2.2, xtol=1e-3)
                print(f"{b1},{b2},{biot},{fo:.5f},{power:.3f}")
                sys.stdout.flush()
