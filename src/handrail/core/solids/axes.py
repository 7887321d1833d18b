"""Places in space: axes at right angles in other axes, mm."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property

Vector = tuple[float, float, float]
X, Y, Z = (1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0)
ZERO: Vector = (0.0, 0.0, 0.0)


def dot(a: Vector, b: Vector) -> float:
    """Of two vectors."""
    return a[0] * b[0] + a[1] * b[1] + a[2] * b[2]


def cross(a: Vector, b: Vector) -> Vector:
    """The vector at right angles to two."""
    return (a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0])


def combined(*terms: tuple[float, Vector]) -> Vector:
    """The sum of vectors, each times its number."""
    return (
        sum(n * v[0] for n, v in terms),
        sum(n * v[1] for n, v in terms),
        sum(n * v[2] for n, v in terms),
    )


def unit(v: Vector) -> Vector:
    """In the same direction, of length one."""
    size = math.sqrt(dot(v, v))
    return (v[0] / size, v[1] / size, v[2] / size)


@dataclass(frozen=True)
class Axes:
    """An `origin` and two unit vectors at right angles, in the axes that hold these; `z` is square to both."""

    origin: Vector = ZERO
    x: Vector = X
    y: Vector = Y

    @cached_property
    def z(self) -> Vector:
        """The third of them, right-handed."""
        return cross(self.x, self.y)

    def along(self, v: Vector) -> Vector:
        """A direction of these axes as the holding ones have it."""
        (a, b, c), x, y, z = v, self.x, self.y, self.z
        return (
            a * x[0] + b * y[0] + c * z[0],
            a * x[1] + b * y[1] + c * z[1],
            a * x[2] + b * y[2] + c * z[2],
        )

    def at(self, x: float = 0.0, y: float = 0.0, z: float = 0.0) -> Vector:
        """A place of these axes as the holding ones have it."""
        (a, b, c), (u, v, w) = self.origin, self.along((x, y, z))
        return (a + u, b + v, c + w)

    def seen(self, point: Vector) -> Vector:
        """A place of the holding axes in these."""
        (a, b, c), (u, v, w) = point, self.origin
        off = (a - u, b - v, c - w)
        return dot(off, self.x), dot(off, self.y), dot(off, self.z)

    def moved(self, x: float = 0.0, y: float = 0.0, z: float = 0.0) -> Axes:
        """With the origin at a place of these."""
        return Axes(self.at(x, y, z), self.x, self.y)

    def with_(self, x: Vector, y: Vector) -> Axes:
        """With other directions, given in these."""
        return Axes(self.origin, self.along(x), self.along(y))

    def holding(self, inner: Axes) -> Axes:
        """Axes that are given in these, as the holding ones have them."""
        return Axes(self.at(*inner.origin), self.along(inner.x), self.along(inner.y))

    def turned(self, angle: float) -> Axes:
        """Turned by `angle` rad from x to y."""
        c, s = math.cos(angle), math.sin(angle)
        return self.with_((c, s, 0.0), (-s, c, 0.0))
