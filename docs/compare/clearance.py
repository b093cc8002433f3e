"""Checks the bench's million balls with scipy: that none that stands meets another, that each that fell has a cause, and how
long scipy takes to find pairs. Distances to an obstacle are held against trimesh's.

    cargo bench -p rookery-core --bench clearance -- FOLDER
    pip install numpy==2.4.6 scipy==1.17.1 trimesh==5.2.0 rtree==1.4.1
    python docs/compare/clearance.py FOLDER
"""

import pathlib
import sys
import time

import numpy as np
import trimesh
from scipy.spatial import cKDTree

folder = pathlib.Path(sys.argv[1])
rows = np.fromfile(folder / "balls.bin", dtype="<f4").reshape(-1, 5)
place, radius, stands = rows[:, :3].astype(np.float64), rows[:, 3].astype(np.float64), rows[:, 4] > 0.5
own, other = place[stands], radius[stands]

start = time.perf_counter()
tree = cKDTree(own)
pairs = tree.query_pairs(2 * other.max(), output_type="ndarray")
apart = np.linalg.norm(own[pairs[:, 0]] - own[pairs[:, 1]], axis=1)
overlap = other[pairs[:, 0]] + other[pairs[:, 1]] - apart
took = time.perf_counter() - start
# Places are single precision numbers of up to 1000 m: their last bit is 0.06 mm.
print(f"{len(own)} stand, {(overlap > 1e-4).sum()} of {len(pairs)} near pairs overlap, {took:.2f} s with scipy's cKDTree")

# Each that fell meets one that stands and came before it; none that stands does.
number = np.flatnonzero(stands)
caused = np.zeros(len(place), bool)
for first in range(0, len(place), 100_000):
    batch = slice(first, first + 100_000)
    near = tree.query_ball_point(place[batch], radius[batch] + other.max())
    owner = np.repeat(np.arange(first, first + len(near)), [len(n) for n in near])
    found = np.concatenate([np.asarray(n, np.int64) for n in near])
    gap = np.linalg.norm(place[owner] - own[found], axis=1)
    meets = (gap < radius[owner] + other[found]) & (number[found] < owner)
    caused[owner[meets]] = True
print(f"{(~stands & ~caused).sum()} fell without a cause, {(stands & caused).sum()} stand in spite of one")

mesh = trimesh.load(folder / "obstacle.ply", process=False)
asked = np.fromfile(folder / "asked.bin", dtype="<f4").reshape(-1, 4).astype(np.float64)
start = time.perf_counter()
_, away, _ = trimesh.proximity.closest_point(mesh, asked[:, :3])
took = time.perf_counter() - start
print(f"distance to {len(mesh.faces)} triangles: greatest difference {np.abs(away - asked[:, 3]).max() * 1e3:.4f} mm, {len(asked)} points in {took:.2f} s with trimesh")
