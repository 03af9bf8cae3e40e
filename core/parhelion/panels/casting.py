"""What hides the sun from a point of a panel: spars and flat faces, with the penumbra of the sun's disc.

References
----------
[1] A strip of half breadth r whose middle lies x off the ray hides C((r-x)/q) - C((-r-x)/q) of the sun's
    disc, with C(t) = 1/2 + (t sqrt(1-t^2) + asin t)/pi; q^2 = (.004653 distance)^2 + 4/3 (hu^2 + hv^2)
    spreads it over a sub-cell of half sizes hu, hv, as they lie across the strip.
[2] A flat face hides what lies within its edges as the ray sees them: two strips for four corners, the
    product of three half planes for three; the share of each edge by [1].
"""

from __future__ import annotations

import math

import numpy as np
from numba import boolean, float32, float64, int64, njit, types
from numpy.typing import NDArray

from parhelion.computing.kernels import OPTIONS

Array = NDArray[np.float64]

SUN_RADIUS_RAD = 0.004653  # half the sun's apparent breadth [1]
LOW_ROWS, LOW_FINER = 3, 3  # of a sky table's lowest steps of height, and how many entries each has


@njit(float64(float64), **OPTIONS)
def _disc(t: float) -> float:
    """C(t): share of a disc of radius 1 below a line t off its middle [1]."""
    if t <= -1:
        return 0.0
    if t >= 1:
        return 1.0
    return 0.5 + (t * math.sqrt(1 - t * t) + math.asin(t)) / math.pi


@njit(float64(float64, float64, float64), **OPTIONS)
def strip_share(offset_m: float, radius_m: float, spread_m: float) -> float:
    """Share of the sun's disc behind a strip [1]: its middle off the ray, half breadth, spread [m]."""
    return _disc((radius_m - offset_m) / spread_m) - _disc((-radius_m - offset_m) / spread_m)


@njit(types.UniTuple(float64, 4)(float64[:, :, ::1]), **OPTIONS)
def _middle(points: Array) -> tuple[float, float, float, float]:
    """Middle of all sub-cells, and how far they reach around it [m]."""
    cells, subs, _ = points.shape
    x, y, z = 0.0, 0.0, 0.0
    for c in range(cells):
        for s in range(subs):
            x, y, z = x + points[c, s, 0], y + points[c, s, 1], z + points[c, s, 2]
    number = cells * subs
    x, y, z = x / number, y / number, z / number
    most = 0.0
    for c in range(cells):
        for s in range(subs):
            u, v, w = points[c, s, 0] - x, points[c, s, 1] - y, points[c, s, 2] - z
            most = max(most, u * u + v * v + w * w)
    return x, y, z, math.sqrt(most)


@njit(boolean[::1](float64[:, :, ::1], float64[:, ::1], float64[:, ::1], float64[:, ::1], float64), **OPTIONS)
def reached(points: Array, spars: Array, faces: Array, directions: Array, half2: float) -> NDArray[np.bool_]:
    """Whether anything of a body may stand before any sub-cell, by direction; shapes as below, (d,)."""
    found = np.zeros(len(directions), dtype=np.bool_)
    mx, my, mz, around = _middle(points)
    for d in range(len(directions)):
        sx, sy, sz = directions[d, 0], directions[d, 1], directions[d, 2]
        for k in range(len(spars)):
            ax, ay, az = spars[k, 0], spars[k, 1], spars[k, 2]
            bx, by, bz = spars[k, 3] - ax, spars[k, 4] - ay, spars[k, 5] - az
            along = bx * sx + by * sy + bz * sz
            px, py, pz = bx - along * sx, by - along * sy, bz - along * sz
            length2 = px * px + py * py + pz * pz
            ux, uy, uz = mx - ax, my - ay, mz - az
            w = 0.0
            if length2 > 1e-12:
                w = min(max((ux * px + uy * py + uz * pz) / length2, 0.0), 1.0)
            foot = -(ux * sx + uy * sy + uz * sz)
            farthest = max(foot, foot + along) + around
            if farthest <= 0:
                continue
            rx, ry, rz = w * bx - ux, w * by - uy, w * bz - uz
            distance = rx * sx + ry * sy + rz * sz
            off2 = rx * rx + ry * ry + rz * rz - distance * distance
            reach = around + spars[k, 6] + math.sqrt((SUN_RADIUS_RAD * farthest) ** 2 + 4.0 / 3.0 * half2)
            if off2 < reach * reach:
                found[d] = True
        for f in range(len(faces)):
            gx = (faces[f, 0] + faces[f, 6]) / 2
            gy = (faces[f, 1] + faces[f, 7]) / 2
            gz = (faces[f, 2] + faces[f, 8]) / 2
            wide = 0.0
            for e in range(int(faces[f, 12])):
                dx, dy, dz = faces[f, 3 * e] - gx, faces[f, 3 * e + 1] - gy, faces[f, 3 * e + 2] - gz
                wide = max(wide, math.sqrt(dx * dx + dy * dy + dz * dz))
            dx, dy, dz = gx - mx, gy - my, gz - mz
            far = dx * sx + dy * sy + dz * sz
            if far + wide + around <= 0:
                continue
            reach = around + wide + SUN_RADIUS_RAD * (far + wide + around) + math.sqrt(4.0 / 3.0 * half2)
            if dx * dx + dy * dy + dz * dz - far * far < reach * reach:
                found[d] = True
    return found


@njit(float64(float64[:, ::1], float64, float64, float64), **OPTIONS)
def _across2(halves: Array, x: float, y: float, z: float) -> float:
    """4/3 (hu^2 + hv^2) of a sub-cell as its half sizes lie along an axis of any length but none [m2] [1]."""
    u = halves[0, 0] * x + halves[0, 1] * y + halves[0, 2] * z
    v = halves[1, 0] * x + halves[1, 1] * y + halves[1, 2] * z
    return 4.0 / 3.0 * (u * u + v * v) / (x * x + y * y + z * z)


@njit(float64[:, ::1](float64[:, :, ::1], float64[:, ::1], float64[:, ::1], float64[:, ::1]), **OPTIONS)
def cell_shares(  # noqa: PLR0912 - one loop, compiled whole
    points: Array, spars: Array, directions: Array, halves: Array
) -> Array:
    """Shaded share of each cell towards each direction, by spars.

    Parameters
    ----------
    points : ndarray, shape (c, s, 3)
        Sub-cells of each cell [m].
    spars : ndarray, shape (k, 7)
        Foot, tip and radius of each [m].
    directions : ndarray, shape (d, 3)
        Unit vectors towards the sun, boat frame.
    halves : ndarray, shape (2, 3)
        From the middle of a sub-cell to two of its sides [m].

    Returns
    -------
    ndarray, shape (d, c)
    """
    cells, subs, _ = points.shape
    half2 = np.sum(halves * halves)
    found = np.zeros((len(directions), cells))
    for d in range(len(directions)):
        sx, sy, sz = directions[d, 0], directions[d, 1], directions[d, 2]
        for k in range(len(spars)):
            ax, ay, az = spars[k, 0], spars[k, 1], spars[k, 2]
            bx, by, bz = spars[k, 3] - ax, spars[k, 4] - ay, spars[k, 5] - az
            radius = spars[k, 6]
            along = bx * sx + by * sy + bz * sz
            px, py, pz = bx - along * sx, by - along * sy, bz - along * sz
            length2 = px * px + py * py + pz * pz
            for c in range(cells):
                # the whole cell first: most are clear of the spar
                ux = (points[c, 0, 0] + points[c, subs - 1, 0]) / 2 - ax
                uy = (points[c, 0, 1] + points[c, subs - 1, 1]) / 2 - ay
                uz = (points[c, 0, 2] + points[c, subs - 1, 2]) / 2 - az
                gx, gy, gz = points[c, 0, 0] - ax - ux, points[c, 0, 1] - ay - uy, points[c, 0, 2] - az - uz
                around = math.sqrt(gx * gx + gy * gy + gz * gz)
                foot = -(ux * sx + uy * sy + uz * sz)
                farthest = max(foot, foot + along) + around
                if farthest <= 0:
                    continue
                w = 0.0
                if length2 > 1e-12:
                    w = min(max((ux * px + uy * py + uz * pz) / length2, 0.0), 1.0)
                rx, ry, rz = w * bx - ux, w * by - uy, w * bz - uz
                distance = rx * sx + ry * sy + rz * sz
                reach = around + radius + math.sqrt((SUN_RADIUS_RAD * farthest) ** 2 + 4.0 / 3.0 * half2)
                if rx * rx + ry * ry + rz * rz - distance * distance >= reach * reach:
                    continue
                total = 0.0
                for s in range(subs):
                    ux, uy, uz = points[c, s, 0] - ax, points[c, s, 1] - ay, points[c, s, 2] - az
                    w = 0.0
                    if length2 > 1e-12:
                        w = min(max((ux * px + uy * py + uz * pz) / length2, 0.0), 1.0)
                    rx, ry, rz = w * bx - ux, w * by - uy, w * bz - uz
                    distance = rx * sx + ry * sy + rz * sz
                    if distance <= 0:
                        continue
                    rx, ry, rz = rx - distance * sx, ry - distance * sy, rz - distance * sz
                    off2 = rx * rx + ry * ry + rz * rz
                    reach = radius + math.sqrt((SUN_RADIUS_RAD * distance) ** 2 + 4.0 / 3.0 * half2)
                    if off2 >= reach * reach:
                        continue
                    if off2 < 1e-12:  # the ray meets its middle: across it and the ray
                        rx, ry, rz = py * sz - pz * sy, pz * sx - px * sz, px * sy - py * sx
                    wide2 = 4.0 / 3.0 * half2
                    if rx * rx + ry * ry + rz * rz > 1e-18:
                        wide2 = _across2(halves, rx, ry, rz)
                    spread = math.sqrt((SUN_RADIUS_RAD * distance) ** 2 + wide2)
                    total += strip_share(math.sqrt(max(off2, 0.0)), radius, spread)
                if total > 0:
                    found[d, c] = 1 - (1 - found[d, c]) * (1 - total / subs)
    return found


@njit(float64[:, ::1](float64[:, :, ::1], float64[:, ::1], float64[:, ::1], float64[:, ::1]), **OPTIONS)
def face_shares(  # noqa: PLR0912 - one loop, compiled whole
    points: Array, faces: Array, directions: Array, halves: Array
) -> Array:
    """Shaded share of each cell towards each direction, by the flat faces of one body [2].

    Parameters
    ----------
    points, directions, halves
        As in `cell_shares`.
    faces : ndarray, shape (f, 14)
        Corners in order, four of them (three, where the last repeats the third) [m]; how many; whether only
        the side counts from which the corners run anticlockwise.

    Returns
    -------
    ndarray, shape (d, c)
        Faces of one body do not hide each other: their shares add up, to 1 at most.
    """
    cells, subs, _ = points.shape
    half2 = np.sum(halves * halves)
    found = np.zeros((len(directions), cells))
    edge = np.zeros(
        (4, 5)
    )  # of one face: unit vector across the edge and the ray, its offset, a sub-cell's q^2
    for d in range(len(directions)):
        sx, sy, sz = directions[d, 0], directions[d, 1], directions[d, 2]
        for f in range(len(faces)):
            corners = int(faces[f, 12])
            ax, ay, az = faces[f, 0], faces[f, 1], faces[f, 2]
            ux, uy, uz = faces[f, 3] - ax, faces[f, 4] - ay, faces[f, 5] - az
            vx, vy, vz = faces[f, 6] - ax, faces[f, 7] - ay, faces[f, 8] - az
            nx, ny, nz = uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx
            size = math.sqrt(nx * nx + ny * ny + nz * nz)
            if size <= 0:
                continue
            nx, ny, nz = nx / size, ny / size, nz / size
            into = nx * sx + ny * sy + nz * sz
            if abs(into) < 1e-6 or (into < 0 and faces[f, 13] > 0):
                continue
            turn = 1.0 if into > 0 else -1.0
            for e in range(corners):
                k = (e + 1) % corners
                ex = faces[f, 3 * k] - faces[f, 3 * e]
                ey = faces[f, 3 * k + 1] - faces[f, 3 * e + 1]
                ez = faces[f, 3 * k + 2] - faces[f, 3 * e + 2]
                cx, cy, cz = sy * ez - sz * ey, sz * ex - sx * ez, sx * ey - sy * ex
                long = max(math.sqrt(cx * cx + cy * cy + cz * cz), 1e-12) * turn
                edge[e, 0], edge[e, 1], edge[e, 2] = cx / long, cy / long, cz / long
                edge[e, 3] = (
                    edge[e, 0] * faces[f, 3 * e]
                    + edge[e, 1] * faces[f, 3 * e + 1]
                    + edge[e, 2] * faces[f, 3 * e + 2]
                )
                edge[e, 4] = 4.0 / 3.0 * half2
                if abs(long) > 1e-9:
                    edge[e, 4] = _across2(halves, edge[e, 0], edge[e, 1], edge[e, 2])
            for c in range(cells):
                # the whole cell first: most are clear of the face, or behind it altogether
                gx = (points[c, 0, 0] + points[c, subs - 1, 0]) / 2
                gy = (points[c, 0, 1] + points[c, subs - 1, 1]) / 2
                gz = (points[c, 0, 2] + points[c, subs - 1, 2]) / 2
                dx, dy, dz = points[c, 0, 0] - gx, points[c, 0, 1] - gy, points[c, 0, 2] - gz
                around = math.sqrt(dx * dx + dy * dy + dz * dz)
                far = (nx * (ax - gx) + ny * (ay - gy) + nz * (az - gz)) / into
                slack = around / abs(into)
                if far + slack <= 0:
                    continue
                reach = around + math.sqrt((SUN_RADIUS_RAD * (far + slack)) ** 2 + 4.0 / 3.0 * half2)
                least = reach
                for e in range(corners):
                    off = edge[e, 0] * gx + edge[e, 1] * gy + edge[e, 2] * gz - edge[e, 3]
                    least = min(least, off)
                    if off <= -reach:
                        break
                if least <= -reach:
                    continue
                if least >= reach and far > slack:
                    found[d, c] = 1.0
                    continue
                total = 0.0
                for s in range(subs):
                    qx, qy, qz = points[c, s, 0], points[c, s, 1], points[c, s, 2]
                    distance = (nx * (ax - qx) + ny * (ay - qy) + nz * (az - qz)) / into
                    if distance <= 1e-6:
                        continue
                    disc2 = (SUN_RADIUS_RAD * distance) ** 2
                    share = 1.0
                    if corners == 4:  # two strips
                        for e in range(2):
                            one = edge[e, 0] * qx + edge[e, 1] * qy + edge[e, 2] * qz - edge[e, 3]
                            o = e + 2
                            two = edge[o, 0] * qx + edge[o, 1] * qy + edge[o, 2] * qz - edge[o, 3]
                            before = _disc(one / math.sqrt(disc2 + edge[e, 4]))
                            behind = _disc(two / math.sqrt(disc2 + edge[o, 4]))
                            share *= max(before + behind - 1, 0.0)
                    else:
                        for e in range(corners):
                            off = edge[e, 0] * qx + edge[e, 1] * qy + edge[e, 2] * qz - edge[e, 3]
                            share *= _disc(off / math.sqrt(disc2 + edge[e, 4]))
                    total += share
                found[d, c] = min(found[d, c] + total / subs, 1.0)
    return found


@njit(types.UniTuple(float64[:, ::1], 2)(float32[:, ::1], int64[::1], int64), **OPTIONS)
def worst_and_mean(clear: NDArray[np.float32], part_of: NDArray[np.int64], parts: int) -> tuple[Array, Array]:
    """Shaded share of the worst cell in each part of a panel, and of all its cells, by direction.

    Parameters
    ----------
    clear : ndarray, shape (d, c)
        Share of each cell that is clear.
    part_of : ndarray, shape (c,)
        The part that each cell is in.
    parts : int

    Returns
    -------
    worst, mean : ndarray, shapes (parts, d) and (1, d)
    """
    directions, cells = clear.shape
    worst = np.zeros((parts, directions))
    mean = np.zeros((1, directions))
    for d in range(directions):
        total = 0.0
        for c in range(cells):
            shaded = 1.0 - clear[d, c]
            total += shaded
            worst[part_of[c], d] = max(worst[part_of[c], d], shaded)
        mean[0, d] = total / cells
    return worst, mean


@njit(float64[:, ::1](float64[:, :, ::1], float64[::1], float64[::1]), **OPTIONS)
def looked_up(table: Array, azimuth_deg: Array, elevation_deg: Array) -> Array:
    """Entries of sky tables between their directions, bilinear.

    Parameters
    ----------
    table : ndarray, shape (p, a, e)
        By bearing all round, and by height from 0: the lowest LOW_ROWS steps in LOW_FINER parts.
    azimuth_deg, elevation_deg : ndarray, shape (n,)
        Where the sun is not up nothing is looked up: 0 [deg].

    Returns
    -------
    ndarray, shape (p, n)
    """
    parts, a, e = table.shape
    step = 360.0 / a
    found = np.empty((parts, len(azimuth_deg)))
    for n in range(len(azimuth_deg)):
        if elevation_deg[n] <= 0:
            found[:, n] = 0.0
            continue
        left = (azimuth_deg[n] / step) % a
        up = elevation_deg[n] / step
        up = up * LOW_FINER if up < LOW_ROWS else up + LOW_ROWS * (LOW_FINER - 1)
        up = min(max(up, 0.0), e - 1.000001)
        i, j = int(left), int(up)
        u, v = left - i, up - j
        i, k = i % a, (i + 1) % a
        for p in range(parts):
            low = table[p, i, j] * (1 - u) + table[p, k, j] * u
            high = table[p, i, j + 1] * (1 - u) + table[p, k, j + 1] * u
            found[p, n] = low * (1 - v) + high * v
    return found
