"""Sheets as DXF: views at full size in the model, in the job's own unit, with layers, line types, real dimensions,
leaders and blocks; each sheet a layout that looks at them at its scales."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any, TextIO

from ezdxf import units
from ezdxf.enums import TextEntityAlignment
from ezdxf.filemanagement import new
from ezdxf.layouts.base import BaseLayout

from handrail.core.drawing.clouds import BULGE, cusps
from handrail.core.drawing.scene import WIDE, Circle, Dimension, Note, Point, Shape, View
from handrail.core.drawing.sheets import BLOCK, HEAD, LETTER, LINE, MARGIN, SMALL, Block, Lines, Sheet, Title
from handrail.core.errors import InputError
from handrail.core.quantities.units import INCH
from handrail.interchange.drawings.paper import zigzag
from handrail.interchange.typeface import BOLD, wide

LAYERS = {  # name -> (colour, line type, weight in 1/100 mm)
    "MEMBERS": (7, "CONTINUOUS", 35),
    "PLATES": (30, "CONTINUOUS", 35),
    "BOLTS": (5, "CONTINUOUS", 25),
    "WELDS": (1, "CONTINUOUS", 25),
    "CONCRETE": (8, "CONTINUOUS", 25),
    "HIDDEN": (8, "HIDDEN", 18),
    "CENTRE": (8, "CENTER", 13),
    "HATCH": (9, "CONTINUOUS", 13),
    "BESIDE": (9, "CONTINUOUS", 13),
    "CLOUDS": (1, "CONTINUOUS", 35),
    "DIMENSIONS": (3, "CONTINUOUS", 13),
    "NOTES": (7, "CONTINUOUS", 18),
    "SHEET": (7, "CONTINUOUS", 35),
}
OF = (  # what a part's name has in it -> its layer
    ("weld", "WELDS"),
    ("bolt", "BOLTS"),
    ("anchor", "BOLTS"),
    ("plate", "PLATES"),
    ("angle", "PLATES"),
    ("lug", "PLATES"),
    ("filler", "PLATES"),
    ("concrete", "CONCRETE"),
    ("grout", "CONCRETE"),
    ("bars", "CONCRETE"),
)
ALIGN = {
    "start": TextEntityAlignment.LEFT,
    "middle": TextEntityAlignment.CENTER,
    "end": TextEntityAlignment.RIGHT,
}
FIELD_BOLT, SHOP_BOLT = "BOLT_SITE", "BOLT_SHOP"
FILLET, BOTH, GROOVE = "WELD_FILLET", "WELD_FILLET_BOTH", "WELD_BEVEL"
APART = 300.0  # mm of paper between the sheets in the model


def write_dxf(sheets: Iterable[Sheet], title: Title, system: str, stream: TextIO) -> int:
    """All sheets in one file; how many. Lengths are inches where `system` is us, else mm."""
    doc = new("R2010", setup=["linetypes", "styles"])
    doc.header["$PROJECTNAME"] = title.job
    out = _Out(doc, 1 / INCH if system == "us" else 1.0, system)
    number = 0
    for sheet in sheets:
        number += 1
        out.sheet(sheet, title)
    if not number:
        raise InputError("there is nothing to draw")
    if "Layout1" in doc.layout_names():
        doc.layouts.delete("Layout1")
    doc.write(stream)
    return number


class _Out:
    """A document that is filled; `unit` is what a mm is in it."""

    def __init__(self, doc: Any, unit: float, system: str) -> None:
        self.doc, self.unit, self.system = doc, unit, system
        self.model = doc.modelspace()
        self.right = 0.0  # of what stands in the model, mm
        doc.units = units.IN if system == "us" else units.MM
        for name, (colour, line, weight) in LAYERS.items():
            doc.layers.add(name, color=colour, linetype=line, lineweight=weight)
        self._blocks()

    def _blocks(self) -> None:
        """Bolts on their end, one unit across; symbols of fillets, one letter high."""
        for name in (FIELD_BOLT, SHOP_BOLT):
            block = self.doc.blocks.new(name)
            block.add_circle((0, 0), 0.5)
            if name == FIELD_BOLT:
                hatch = block.add_hatch(color=256)
                hatch.paths.add_polyline_path([(0.5, 0, 1), (-0.5, 0, 1)], is_closed=True)
        for name in (FILLET, BOTH, GROOVE):
            block = self.doc.blocks.new(name)
            block.add_line((-0.4, 0), (5.2, 0))
            for way in (-1, 1) if name == BOTH else (-1,):
                symbol = [(3.2, 0), (3.2, 0.85 * way), (4.05, 0)]
                if name == GROOVE:
                    symbol = [(3.2, 0.85 * way), (3.2, 0), (4.05, 0.85 * way)]
                block.add_lwpolyline(symbol)
                size_at = (2.85, -0.95) if way < 0 else (2.85, 0.3)
                tag = "SIZE" if way < 0 else "SIZE_OTHER"
                block.add_attdef(tag, dxfattribs={"height": 1.0}).set_placement(size_at, align=ALIGN["end"])

    def sheet(self, sheet: Sheet, title: Title) -> None:
        """A layout in mm, and its views in the model."""
        layout = self.doc.layouts.new(f"Sheet {sheet.number}")
        form = sheet.format
        layout.page_setup(size=(form.width, form.height), margins=(0, 0, 0, 0), units="mm")
        for block in sheet.blocks:
            self._block(layout, block)
        _frame(layout, sheet, title)

    def _block(self, layout: Any, block: Block) -> None:
        for placed in block.views:
            x0, y0, x1, y1 = placed.view.extent()
            off = self.right - x0, -y0
            self._view(placed.view, off)
            self.right += x1 - x0 + APART
            middle = (x0 + x1) / 2 + off[0], (y0 + y1) / 2 + off[1]
            at = placed.at[0] + (x0 + x1) / 2 / placed.scale, placed.at[1] + (y0 + y1) / 2 / placed.scale
            size = (x1 - x0) / placed.scale + 2, (y1 - y0) / placed.scale + 2
            layout.add_viewport(
                center=at,
                size=size,
                view_center_point=(middle[0] * self.unit, middle[1] * self.unit),
                view_height=size[1] * placed.scale * self.unit,
            )
            _text(layout, placed.view.title, placed.under, SMALL, "middle", "NOTES")
        for lettered in block.lettered:
            _lines(layout, lettered)
        x, y = block.lettered[0].at
        x += wide(block.name, HEAD, BOLD) + 4
        _text(layout, f"scale {block.scale}", (x, y), SMALL, "start", "NOTES")
        if block.warning:
            _text(layout, block.warning, (x + wide(f"scale {block.scale}", SMALL) + 4, y), HEAD, "start", "CLOUDS")

    def _view(self, view: View, off: Point) -> None:
        """At full size, its (0, 0) at `off`, mm."""

        def put(p: Point) -> Point:
            return (p[0] + off[0]) * self.unit, (p[1] + off[1]) * self.unit

        letter = view.lettering * self.unit
        for shape in view.shapes:
            if shape.style == "break" and isinstance(shape, Shape):
                ends = zigzag([put(p) for p in shape.points], 0.45 * letter)
                self.model.add_lwpolyline(ends, dxfattribs={"layer": _layer(shape)})
            else:
                self._shape(shape, put)
        style = self._style(letter)
        for dim in view.dimensions:
            self._dimension(dim, put, letter, style)
        for note in view.notes:
            self._note(note, put, letter)
        for box in view.clouds:
            arcs = [(*put(point), 0.0, 0.0, 2 * BULGE) for point in cusps(box, view.lettering)]
            self.model.add_lwpolyline(arcs, close=True, dxfattribs={"layer": "CLOUDS"})

    def _shape(self, shape: Shape | Circle, put: Any) -> None:
        layer = _layer(shape)
        if isinstance(shape, Circle):
            if "bolt" in shape.part and shape.style in ("field", "outline"):
                size = 2 * shape.radius * self.unit
                name = FIELD_BOLT if shape.style == "field" else SHOP_BOLT
                attribs = {"layer": layer, "xscale": size, "yscale": size}
                self.model.add_blockref(name, put(shape.centre), dxfattribs=attribs)
            else:
                self.model.add_circle(put(shape.centre), shape.radius * self.unit, dxfattribs={"layer": layer})
        elif shape.style == "hatch":
            hatch = self.model.add_hatch(color=256, dxfattribs={"layer": "HATCH"})
            if "weld" not in shape.part:
                hatch.set_pattern_fill("ANSI31", scale=12 * self.unit)
            for ring in (shape.points, *shape.holes):
                hatch.paths.add_polyline_path([put(p) for p in ring], is_closed=True)
        elif shape.style != "face":
            look: dict[str, Any] = {"layer": layer}
            if shape.style == "cut":
                look["lineweight"] = 50
            points = [put(p) for p in shape.points]
            self.model.add_lwpolyline(points, close=shape.closed, dxfattribs=look)

    def _style(self, letter: float) -> str:
        """The dimensions' style for letters of a height: what it says is measured."""
        name = f"HR {letter:.4g}".replace(".", "_")
        if name not in self.doc.dimstyles:
            style = self.doc.dimstyles.new(name)
            style.set_dxf_attrib("dimtxt", letter)
            style.set_dxf_attrib("dimtsz", 0.3 * letter)
            style.set_dxf_attrib("dimexo", 0.0)
            style.set_dxf_attrib("dimexe", 0.35 * letter)
            style.set_dxf_attrib("dimgap", 0.25 * letter)
            style.set_dxf_attrib("dimlunit", 5 if self.system == "us" else 2)
            style.set_dxf_attrib("dimdec", 4 if self.system == "us" else 1)
            style.set_dxf_attrib("dimfrac", 2)
            style.set_dxf_attrib("dimzin", 8)
        return name

    def _dimension(self, dim: Dimension, put: Any, letter: float, style: str) -> None:
        (a, b), (one, other) = dim.line, (extension[0] for extension in dim.extensions)
        upright = abs(a[0] - b[0]) < abs(a[1] - b[1])
        x, y = dim.place
        half = WIDE * len(dim.text) * letter / self.unit / 2
        middle = x + {"start": half, "middle": 0.0, "end": -half}[dim.anchor], y + 0.36 * letter / self.unit
        made = self.model.add_linear_dim(
            base=put(a),
            p1=put(one),
            p2=put(other),
            location=put(middle),
            angle=90 if upright else 0,
            text=dim.text,
            dimstyle=style,
            override={"dimtad": 0, "dimtmove": 2},
            dxfattribs={"layer": "DIMENSIONS"},
        )
        made.render()

    def _note(self, note: Note, put: Any, letter: float) -> None:
        if note.leader:
            self.model.add_leader(
                [put(p) for p in note.leader],
                override={"dimasz": 0.9 * letter, "dimldrblk": "", "dimscale": 1.0},
                dxfattribs={"layer": "NOTES"},
            )
        x, y = put(note.place)
        if not (note.weld or note.groove):
            _text(self.model, note.text, (x, y), letter, note.anchor, "NOTES")
            return
        start, sign = (x, 1) if note.anchor == "start" else (x - 4.8 * letter, -1)
        line, attribs = y + 0.36 * letter, {"layer": "WELDS"}
        block = self.model.add_blockref(
            GROOVE if note.groove else FILLET if note.arrow_side else BOTH,
            (start, line),
            dxfattribs={**attribs, "xscale": letter, "yscale": letter},
        )
        block.add_auto_attribs({"SIZE": note.weld, "SIZE_OTHER": note.weld})
        if note.dashed:
            ends = [(start + x * letter, line + 0.4 * letter) for x in (-0.4, 5.2)]
            self.model.add_line(*ends, dxfattribs={**attribs, "linetype": "DASHED", "ltscale": 0.1 * letter})
        tail, flag = (start + 5.2 * letter, start) if sign > 0 else (start - 0.4 * letter, x)
        for way in (-1, 1):
            end = tail + sign * 0.6 * letter, line + way * 0.6 * letter
            self.model.add_line((tail, line), end, dxfattribs=attribs)
        at = tail + sign * 0.8 * letter, line - 0.36 * letter
        _text(self.model, note.text, at, letter, "start" if sign > 0 else "end", "WELDS")
        if note.around:
            self.model.add_circle((flag, line), 0.4 * letter, dxfattribs=attribs)
        if note.field:
            points = [(flag, line), (flag, line + 2.2 * letter), (flag + 0.9 * letter, line + 1.75 * letter)]
            self.model.add_lwpolyline([*points, (flag, line + 1.3 * letter)], dxfattribs=attribs)


def _layer(shape: Shape | Circle) -> str:
    if shape.style in ("hidden", "centre", "beside"):
        return shape.style.upper()
    return next((layer for word, layer in OF if word in shape.part), "MEMBERS")


def _text(to: BaseLayout, text: str, at: Point, height: float, anchor: str, layer: str) -> None:
    to.add_text(text, height=height, dxfattribs={"layer": layer}).set_placement(at, align=ALIGN[anchor])


def _lines(layout: BaseLayout, lettered: Lines) -> None:
    (x, y), letter = lettered.at, lettered.letter
    for row, line in enumerate(lettered.lines):
        _text(layout, line, (x, y - row * letter * LINE), letter, "start", "NOTES")


def _frame(layout: BaseLayout, sheet: Sheet, title: Title) -> None:
    """Frame and title block: the firm, the job and what this is, the cells."""
    form, attribs = sheet.format, {"layer": "SHEET"}
    x0, y0, x1, y1 = MARGIN, MARGIN, form.width - MARGIN, form.height - MARGIN
    layout.add_lwpolyline([(x0, y0), (x1, y0), (x1, y1), (x0, y1)], close=True, dxfattribs=attribs)
    layout.add_line((x0, y0 + BLOCK), (x1, y0 + BLOCK), dxfattribs=attribs)
    for row, line in enumerate((*title.firm[:4],)):
        _text(layout, line, (x0 + 3, y0 + BLOCK - 6 - 5 * row), LETTER, "start", "SHEET")
    middle = x0 + 0.3 * (x1 - x0)
    for row, line in enumerate((title.job, title.of)):
        _text(layout, line, (middle, y0 + BLOCK - 7 - 6 * row), 2.6, "start", "SHEET")
    cells = [*title.cells, ("sheet", str(sheet.number))]
    for k, (name, text) in enumerate(cells):
        x = x1 - 26.0 * (len(cells) - k)
        layout.add_line((x, y0), (x, y0 + BLOCK), dxfattribs=attribs)
        _text(layout, name, (x + 2, y0 + BLOCK - 4.5), SMALL, "start", "SHEET")
        _text(layout, text[:22], (x + 2, y0 + BLOCK - 10), SMALL, "start", "SHEET")
