"""Puts a million even places on a terrain beside those of trimesh on the same 524,288 triangles: time and spacing.

    cargo bench -p rookery-core --bench even -- FOLDER
    pip install numpy==2.4.6 scipy==1.17.1 trimesh==5.2.0
    python docs/compare/even.py FOLDER

Relative radius (Lagae & Dutre 2008): half the smallest distance over that of the densest packing of as many discs.
"""

import pathlib
import sys
import time

import numpy as np
import trimesh
from scipy.spatial import cKDTree

folder = pathlib.Path(sys.argv[1])
places = np.fromfile(folder / "places.bin", dtype="<f4").reshape(-1, 3).astype(np.float64)
heights = np.fromfile(folder / "heights.bin", dtype="<f4")
ours_s = float((folder / "milliseconds.txt").read_text()) / 1e3
n = int(round(len(heights) ** 0.5))
side = np.linspace(-500.0, 500.0, n)
x, z = np.meshgrid(side, side)
vertices = np.column_stack([x.ravel(), heights, z.ravel()])
corner = (np.arange(n - 1)[:, None] * n + np.arange(n - 1)).ravel()
faces = np.concatenate(
    [np.column_stack([corner, corner + n, corner + 1]), np.column_stack([corner + 1, corner + n, corner + n + 1])]
)
mesh = trimesh.Trimesh(vertices, faces, process=False)
print(f"{len(mesh.faces)} triangles, {mesh.area:.0f} m2 of ground on 1,000,000 m2 of plan")


def relative_radius(points, area):
    smallest = cKDTree(points).query(points, k=2)[0][:, 1].min()
    return smallest / 2 / np.sqrt(area / (2 * np.sqrt(3) * len(points)))


on_plan, on_ground = relative_radius(places[:, [0, 2]], 1e6), relative_radius(places, mesh.area)
print(f"ours: {len(places)} places, {ours_s:.2f} s, {len(places) / ours_s / 1e6:.2f} M/s, "
      f"relative radius {on_plan:.3f} on the plan, {on_ground:.3f} on the ground")

start = time.perf_counter()
theirs, _ = trimesh.sample.sample_surface_even(mesh, len(places), seed=7)
took = time.perf_counter() - start
print(f"trimesh: {len(theirs)} places of {len(places)} asked for, {took:.2f} s, {len(theirs) / took / 1e6:.3f} M/s, "
      f"relative radius {relative_radius(theirs, mesh.area):.3f} on the ground")
print(f"{len(places) / ours_s / (len(theirs) / took):.1f} times as many a second")
