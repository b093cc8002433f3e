"""Simplifies the bench's stone with the PyPI package fast-simplification and measures both results the same way.

    cargo bench -p rookery-core --bench simplify -- FOLDER
    pip install fast-simplification==0.2.0 trimesh==5.2.0 scipy numpy
    python docs/compare/simplification.py FOLDER
"""

import pathlib
import sys
import time

import fast_simplification
import numpy as np
import trimesh
from scipy.spatial import cKDTree

folder = pathlib.Path(sys.argv[1])
stone = trimesh.load(folder / "stone.ply", process=False)


def off(a, b):
    """Mean and greatest distance between two surfaces, both ways, from dense samples, in millimetres."""
    pa, pb = (trimesh.sample.sample_surface(m, 400_000, seed=k)[0] for k, m in enumerate((a, b)))
    there, back = cKDTree(pb).query(pa)[0], cKDTree(pa).query(pb)[0]
    return np.mean(np.r_[there, back]) * 1e3, max(there.max(), back.max()) * 1e3


# Samples of a surface lie apart themselves: what two samplings of the same one differ by is no error.
print("samples of the stone against others of it: mean %.2f mm, greatest %.2f mm" % off(stone, stone.copy()))
for wanted in (20_000, 5000, 1000):
    times = []
    for _ in range(5):
        start = time.perf_counter()
        points, faces = fast_simplification.simplify(stone.vertices, stone.faces, target_count=wanted)
        times.append(time.perf_counter() - start)
    other = trimesh.Trimesh(points, faces, process=False)
    own = trimesh.load(folder / f"light_{wanted}.ply", process=False)
    for name, mesh in (("ours", own), ("fast-simplification", other)):
        mean, greatest = off(stone, mesh)
        took = "" if mesh is own else f", {np.median(times) * 1e3:.0f} ms"
        print(f"{wanted}: {name}: {len(mesh.faces)} triangles{took}, mean {mean:.2f} mm, greatest {greatest:.2f} mm")
