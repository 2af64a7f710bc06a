"""A drawing made, and another one read, by a library of other people: what ours says is compared with what this one says."""

import json
import math
import sys

import ezdxf
from ezdxf import path as paths
from ezdxf.math import Matrix44, OCS


def make(target, version="R2010"):
    """Writes a drawing with everything that is awkward; prints where its lines lie, flattened to 1 mm, by layer."""
    doc = ezdxf.new(version)
    doc.units = 6
    msp = doc.modelspace()
    for name in ("FACE", "MIRRORED", "TURNED", "NESTED", "ARCS", "SPLINE", "FITTED", "FROZEN", "OFF", "SPACE", "DOUBLE", "RING", "GRÜN", "EVEN"):
        doc.layers.add(name)
    doc.layers.get("FROZEN").freeze()
    doc.layers.get("OFF").off()
    msp.add_lwpolyline([(0, 0, 0, 0, 0.3), (6, 0, 0, 0, 0), (9, 4, 0, 0, -0.2), (12, 4)], format="xyseb", dxfattribs={"layer": "FACE"})
    # Mirrored: drawn in a plane seen from below.
    msp.add_lwpolyline([(1, 2, 0, 0, 0.5), (4, 2), (7, 5)], format="xyseb", dxfattribs={"layer": "MIRRORED", "extrusion": (0, 0, -1)})
    msp.add_arc((3, -4), 2, 20, 140, dxfattribs={"layer": "MIRRORED", "extrusion": (0, 0, -1)})
    inner = doc.blocks.new("INNER", base_point=(1, 1))
    inner.add_lwpolyline([(1, 1, 0, 0, 0.4), (3, 1), (3, 2)], format="xyseb", dxfattribs={"layer": "0"})
    inner.add_line((3, 2), (5, 2), dxfattribs={"layer": "0"})
    outer = doc.blocks.new("OUTER")
    outer.add_blockref("INNER", (2, 0), dxfattribs={"rotation": 30, "layer": "0", "xscale": -1})
    outer.add_arc((0, 0), 1.5, 300, 60, dxfattribs={"layer": "0"})
    msp.add_blockref("INNER", (20, 5), dxfattribs={"layer": "TURNED", "rotation": 40, "xscale": 2, "yscale": 2})
    msp.add_blockref("OUTER", (40, 5), dxfattribs={"layer": "NESTED", "rotation": -25, "xscale": 1.5, "yscale": 1.5})
    msp.add_circle((60, 0), 3, dxfattribs={"layer": "RING"})
    msp.add_arc((70, 0), 3, 0, 360, dxfattribs={"layer": "RING"})
    msp.add_arc((80, 0), 3, 270, 90, dxfattribs={"layer": "ARCS"})
    msp.add_line((80, 3), (76, 3), dxfattribs={"layer": "ARCS"})
    msp.add_line((76, -3), (80, -3), dxfattribs={"layer": "ARCS"})
    spline = msp.add_spline(fit_points=[(0, 20), (3, 22), (6, 21), (9, 24)], dxfattribs={"layer": "SPLINE"})
    msp.add_line((0, 30), (5, 30), dxfattribs={"layer": "DOUBLE"})
    msp.add_line((5, 30), (0, 30), dxfattribs={"layer": "DOUBLE"})
    msp.add_line((0, 40), (5, 41), dxfattribs={"layer": "FROZEN"})
    msp.add_line((0, 42), (5, 43), dxfattribs={"layer": "OFF"})
    msp.add_line((0, 44), (5, 45), dxfattribs={"layer": "GRÜN"})
    msp.add_polyline3d([(0, 50, 1), (5, 50, 1.5), (9, 52, 2)], dxfattribs={"layer": "SPACE"})
    msp.add_mesh(dxfattribs={"layer": "FACE"})
    doc.layout().add_line((0, 0), (100, 0), dxfattribs={"layer": "FACE"})
    doc.saveas(target)
    skipped = {"SPLINE"}
    found = {}
    for entity in exploded(msp):
        layer = entity.dxf.layer
        if layer in skipped or entity.dxftype() not in ("LWPOLYLINE", "LINE", "ARC", "CIRCLE", "POLYLINE"):
            continue
        found.setdefault(layer, []).append([[p.x, p.y] for p in paths.make_path(entity).flattening(0.0005)])
    found["SPLINE"] = [[[p[0], p[1]] for p in spline.fit_points]]
    print(json.dumps(found))


def exploded(entities):
    for entity in entities:
        if entity.dxftype() == "INSERT":
            for inner in exploded(entity.virtual_entities()):
                if inner.dxf.layer == "0":
                    inner.dxf.layer = entity.dxf.layer
                yield inner
        else:
            yield entity


def look(source):
    """Reads a drawing; prints whether it is sound, and its lines flattened to 0.1 mm with their elevations."""
    doc = ezdxf.readfile(source)
    audit = doc.audit()
    lines = {}
    for entity in doc.modelspace():
        if entity.dxftype() not in ("LWPOLYLINE", "POLYLINE"):
            continue
        points = [[p.x, p.y, p.z] for p in paths.make_path(entity).flattening(0.0001)]
        lines.setdefault(entity.dxf.layer, []).append({"points": points, "is3d": entity.dxftype() == "POLYLINE" and entity.is_3d_polyline})
    print(json.dumps({"errors": [str(e.message) for e in audit.errors], "units": doc.units, "lines": lines}))


if __name__ == "__main__":
    {"make": make, "look": look}[sys.argv[1]](*sys.argv[2:])
