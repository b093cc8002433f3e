"""Makes the mesh fixtures anew with the Python package trimesh, and prints what trimesh reads back from them."""
import io
import numpy
import trimesh

# An arch-like body: a torus cut by nothing, and a box beside it, as two objects.
torus = trimesh.creation.torus(major_radius=3.0, minor_radius=0.8, major_sections=16, minor_sections=8)
box = trimesh.creation.box(extents=(2.0, 1.0, 4.0))
box.apply_translation((8.0, 0.5, 0.0))

with open("two.obj", "w") as f:
    f.write("# two objects, one with quads\nmtllib two.mtl\no Ring\nusemtl lichen\n")
    for v in torus.vertices:
        f.write("v %.6f %.6f %.6f\n" % tuple(v))
    for t in torus.faces + 1:
        f.write("f %d %d %d\n" % tuple(t))
    first = len(torus.vertices)
    f.write("o Block\ng sides\nusemtl stone\n")
    corners = box.bounds
    for i in range(8):
        f.write("v %.6f %.6f %.6f\n" % (corners[i & 1][0], corners[i >> 1 & 1][1], corners[i >> 2][2]))
    quads = [(0, 2, 3, 1), (4, 5, 7, 6), (0, 4, 6, 2), (1, 3, 7, 5)]
    for q in quads:
        f.write("f " + " ".join("%d/1/1" % (first + 1 + i) for i in q) + "\n")
    f.write("g ends\n")
    for q in [(0, 1, 5, 4), (2, 6, 7, 3)]:
        f.write("f " + " ".join(str(i - 8) for i in q) + "\n")

torus.export("ring_little.ply", encoding="binary_little_endian")
torus.export("ring_ascii.ply", encoding="ascii")
little = open("ring_little.ply", "rb").read()
vertices = numpy.asarray(torus.vertices, dtype=">f4").tobytes()
faces = b"".join(b"\x03" + numpy.asarray(t, dtype=">i4").tobytes() for t in torus.faces)
head = (
    "ply\nformat binary_big_endian 1.0\ncomment swapped\nelement vertex %d\nproperty float x\nproperty float y\n"
    "property float z\nelement face %d\nproperty list uchar int vertex_indices\nend_header\n"
) % (len(torus.vertices), len(torus.faces))
open("ring_big.ply", "wb").write(head.encode() + vertices + faces)

scene = trimesh.Scene()
scene.add_geometry(torus, node_name="Ring", geom_name="Ring")
turned = trimesh.transformations.rotation_matrix(0.7, (0, 1, 0), (0, 0, 0))
turned[:3, 3] = (0, 5, 1)
scene.add_geometry(box, node_name="Block", geom_name="Block", transform=turned)
open("two.glb", "wb").write(scene.export(file_type="glb"))

for name in ["two.obj", "ring_little.ply", "ring_ascii.ply", "ring_big.ply", "two.glb"]:
    read = trimesh.load(name, force="mesh", process=False)
    print(name, len(read.faces), "faces, area %.5f, volume %.5f, bounds" % (read.area, read.volume), read.bounds.round(4).tolist())
