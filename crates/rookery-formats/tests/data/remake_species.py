"""Writes dwarf_willow.glb with trimesh: a stem in one colour and two crossed sheets of leaves with a picture that has holes.

Run with `pip install trimesh==5.2.0 numpy pillow`; prints what the test compares with.
"""

import pathlib

import numpy as np
import trimesh
from PIL import Image, ImageDraw
from trimesh.visual.material import PBRMaterial

HERE = pathlib.Path(__file__).parent

# Leaves on a clear sheet, row 0 at the top.
picture = Image.new("RGBA", (64, 64), (0, 0, 0, 0))
draw = ImageDraw.Draw(picture)
rng = np.random.default_rng(7)
for i in range(26):
    x, y = rng.uniform(8, 56), rng.uniform(6, 50)
    green = int(rng.integers(90, 150))
    draw.ellipse([x - 7, y - 4, x + 7, y + 4], fill=(int(green * 0.55), green, 40, 255))
draw.line([32, 63, 32, 30], fill=(90, 60, 40, 255), width=3)

stem = trimesh.creation.cylinder(radius=0.03, segment=[[0, 0, 0], [0, 0.5, 0]], sections=8)
stem.visual = trimesh.visual.TextureVisuals(
    material=PBRMaterial(name="bark", baseColorFactor=[0.2, 0.12, 0.08, 1.0], metallicFactor=0.0)
)


def sheet(turn):
    half, low, high = 0.6, 0.2, 1.4
    corners = np.array([[-half, low, 0], [half, low, 0], [half, high, 0], [-half, high, 0]])
    c, s = np.cos(turn), np.sin(turn)
    corners = corners @ np.array([[c, 0, -s], [0, 1, 0], [s, 0, c]])
    # trimesh keeps places from the lower left corner, glTF has them from the upper left; it turns them over itself.
    uv = np.array([[0, 0], [1, 0], [1, 1], [0, 1]], float)
    mesh = trimesh.Trimesh(corners, [[0, 1, 2], [0, 2, 3]], process=False)
    material = PBRMaterial(name="leaves", baseColorTexture=picture, alphaMode="MASK", alphaCutoff=0.5, doubleSided=True)
    mesh.visual = trimesh.visual.TextureVisuals(uv=uv, material=material)
    return mesh


scene = trimesh.Scene()
scene.add_geometry(stem, node_name="stem")
scene.add_geometry(sheet(0.0), node_name="leaves_a")
scene.add_geometry(sheet(np.pi / 2), node_name="leaves_b")
(HERE / "dwarf_willow.glb").write_bytes(scene.export(file_type="glb"))

again = trimesh.load(HERE / "dwarf_willow.glb")
print("faces", sum(len(g.faces) for g in again.geometry.values()), "area", again.area, "bounds", again.bounds.tolist())
pixels = np.asarray(picture)
print("covered", (pixels[..., 3] > 127).mean(), "pixel at row 40, column 32", pixels[40, 32].tolist(), "row 3, column 3", pixels[3, 3].tolist())
