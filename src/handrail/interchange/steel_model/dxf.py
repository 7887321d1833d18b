"""A connection as solids in a DXF: what each thing is by its layer."""

from __future__ import annotations

import io
from collections.abc import Iterator

from ezdxf import units
from ezdxf.filemanagement import new

from handrail.core.quantities.units import INCH
from handrail.core.solids.collisions import Solid, body_of
from handrail.core.solids.meshes import mesh
from handrail.core.solids.pieces import Solids
from handrail.interchange.steel_model.whole import Whole

LAYERS = {"MEMBERS": 8, "PLATES": 4, "BOLTS": 3, "WELDS": 1}  # with their colours' numbers


def write_dxf(whole: Whole) -> bytes:
    """The file, in in. or mm about the joint's node, along the building's axes. The connections come first: where they
    are is the origin."""
    scale, unit = (1 / INCH, units.IN) if whole.system == "us" else (1.0, units.MM)
    doc = new("R2010", units=unit)
    for name, colour in LAYERS.items():
        doc.layers.add(name, color=colour)
    found = list(whole.connections)
    origin = found[0].node if found else (0.0, 0.0, 0.0)
    space = doc.modelspace()
    solids = [("MEMBERS", one.steel.bar) for one in whole.steel]
    for layer, solid in (*solids, *(part for one in found for part in _parts(one.solids))):
        made = mesh(body_of(solid), origin)
        points = [tuple(v * scale for v in made.points[k : k + 3]) for k in range(0, len(made.points), 3)]
        with space.add_mesh({"layer": layer}).edit_data() as data:
            data.vertices = points
            data.faces = [made.faces[k : k + 3] for k in range(0, len(made.faces), 3)]
    text = io.StringIO()
    doc.write(text)
    return text.getvalue().encode()


def _parts(solids: Solids) -> Iterator[tuple[str, Solid]]:
    """Everything with its layer; a groove lies within what it joins."""
    yield from (("PLATES", piece) for piece in solids.pieces)
    yield from (("BOLTS", bolt) for bolt in solids.bolts)
    yield from (("BOLTS", rod) for rod in solids.rods)
    yield from (("WELDS", weld) for weld in solids.welds if weld.kind == "fillet")
