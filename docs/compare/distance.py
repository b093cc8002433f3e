"""Distances of a million points to a mesh beside open3d, on the same points in the same minute.

    cargo bench -p rookery-core --bench clearance -- FOLDER
    pip install numpy open3d==0.19.0
    python docs/compare/distance.py FOLDER
"""

import pathlib
import sys
import time

import numpy as np
import open3d as o3d

folder = pathlib.Path(sys.argv[1])
mesh = o3d.t.io.read_triangle_mesh(str(folder / "obstacle.ply"))
scene = o3d.t.geometry.RaycastingScene()
scene.add_triangles(mesh)
for name in ["near", "far"]:
    rows = np.fromfile(folder / f"{name}.bin", dtype="<f4").reshape(-1, 4)
    points = o3d.core.Tensor(np.ascontiguousarray(rows[:, :3]))
    best = float("inf")
    for _ in range(3):
        start = time.perf_counter()
        away = scene.compute_distance(points).numpy()
        best = min(best, time.perf_counter() - start)
    off = np.abs(away - rows[:, 3])
    print(f"{name}: {len(rows) / best * 1e-6:.2f} M/s with open3d; greatest difference {off.max() * 1e3:.4f} mm")
