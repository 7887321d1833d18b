"""Sheets as files, opened again by general readers: what they say is what the sizes are."""

from __future__ import annotations

import io
import math
import xml.etree.ElementTree as ET

import ezdxf
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pypdf import PdfReader

from handrail.core.checking.aside import FEW
from handrail.core.checking.details import Subject, on_paper
from handrail.core.checking.trial import read_trial
from handrail.core.drawing.sheets import BLOCK, FORMATS, MARGIN, Title, packed, paper
from handrail.core.errors import InputError
from handrail.interchange.drawings.dxf import write_dxf
from handrail.interchange.drawings.pages import write_pdf, write_svg
from tests.wide import wide
from tests.worked.sheet import FLANGE, GIRDER, data
from tests.worked.test_base_plate import BASE
from tests.worked.test_beam_splice import SPLICE

TITLE = Title(("Elm Detailing", "12 Wharf Lane"), "Alder Street", "Connections by mark", (("model", "R1"),))
PAIR = {**GIRDER, "standard": "double_angle", "parameters": {}}
INCH = 25.4


def of(name: str, base, parameters=None):
    trial = read_trial(data(base, parameters))
    return Subject(name, trial.standard.name, trial.situation, trial.sizes, ("at B1.i",))


def sheets(every, form, system="us", cores=1):
    return packed(on_paper(every, FORMATS[form], system, cores), FORMATS[form], system)


def dxf(*details, system="us"):
    text = io.StringIO()
    assert write_dxf(sheets(details, "A3", system), TITLE, system, text) == 1
    return ezdxf.read(io.StringIO(text.getvalue()))


def measured(doc) -> list[tuple[str, float]]:
    return [(d.dxf.text, round(d.get_measurement(), 4)) for d in doc.modelspace().query("DIMENSION")]


def test_dxf_measures_what_it_letters():
    """The plate of the sheet: 3 in. to the first of four bolts 3 in. apart, 1-1/4 in. at the ends, a plate of 11-1/2,
    2-1/2 from the beam's end to the bolts, 1-1/2 behind them. Each is a dimension that measures this in inches."""
    doc = dxf(of("SP1", FLANGE))
    assert doc.audit().errors == [] and doc.units == ezdxf.units.IN
    found = measured(doc)
    for text, value in (('3"', 3.0), ('1-1/4"', 1.25), ('3 @ 3" = 9"', 9.0), ('11-1/2"', 11.5), ('2-1/2"', 2.5),
                        ('1-1/2"', 1.5), ('1/2"', 0.5), ('a = 3"', 3.0)):  # fmt: skip
        assert (text, value) in found
    assert len(found) == 9  # each once, but for the ends'


def test_dxf_of_a_metric_job_is_in_mm():
    doc = dxf(of("SP1", FLANGE), system="si")
    assert doc.units == ezdxf.units.MM
    found = measured(doc)
    assert ("3 @ 76.2 = 228.6", 228.6) in found and ("12.7", 12.7) in found


def test_dxf_has_layers_line_types_blocks_leaders_and_layouts():
    doc = dxf(of("DA1", PAIR), of("BP1", BASE))
    model = doc.modelspace()
    used = {entity.dxf.layer for entity in model}
    assert used >= {
        "MEMBERS",
        "PLATES",
        "BOLTS",
        "HIDDEN",
        "CENTRE",
        "HATCH",
        "DIMENSIONS",
        "NOTES",
        "WELDS",
        "CONCRETE",
    }
    assert doc.layers.get("HIDDEN").dxf.linetype == "HIDDEN" and doc.layers.get("CENTRE").dxf.linetype == "CENTER"
    bolts = [i.dxf.name for i in model.query("INSERT") if i.dxf.name.startswith("BOLT")]
    # 3 rows: the pair's on the beam on end in the elevation, put in by the shop; 6 of the site along the beam
    assert bolts.count("BOLT_SHOP") == 3 and bolts.count("BOLT_SITE") == 6
    assert len(model.query("LEADER")) >= 8
    assert [name for name in doc.layout_names() if name != "Model"] == ["Sheet 1"]
    views = doc.layouts.get("Sheet 1").query("VIEWPORT")
    scales = {round(v.dxf.view_height * INCH / v.dxf.height) for v in views if v.dxf.status > 1 or v.dxf.id > 1}
    assert scales & {4, 8, 12, 16}  # they look at the model at the scales that are lettered


def test_the_plate_in_dxf_is_as_large_as_it_is():
    """4-1/2 by 11-1/2 in.: its outline in the elevation has these sides."""
    model = dxf(of("SP1", FLANGE)).modelspace()
    sides = set()
    for line in model.query("LWPOLYLINE[layer=='PLATES']"):
        points = [(x, y) for x, y, *_ in line.get_points()]
        for (x, y), (u, v) in zip(points, points[1:], strict=False):
            sides.add(round(math.hypot(u - x, v - y), 3))
    assert {4.5, 11.5} <= sides


def test_a_pdf_is_read_again_and_is_the_same_twice():
    every = [of("SP1", FLANGE), of("DA1", PAIR), of("BP1", BASE), of("BFS1", SPLICE)]
    first, again = io.BytesIO(), io.BytesIO()
    count = write_pdf(sheets(every, "ANSI-B"), TITLE, first)
    write_pdf(sheets(every, "ANSI-B"), TITLE, again)
    assert first.getvalue() == again.getvalue()
    pdf = PdfReader(first)
    assert len(pdf.pages) == count and pdf.metadata.title == "Alder Street: Connections by mark"
    assert float(pdf.pages[0].mediabox.width) == pytest.approx(17 * 72, abs=0.1)
    words = "\n".join(page.extract_text() for page in pdf.pages)
    for said in ("SP1", "BP1", 'PL 1/4" x 4-1/2" x 11-1/2" A36', "Elm Detailing", "at B1.i", "E70", "sheet"):
        assert said in words
    assert "(4) 3/4 A325-N, 1-3/4 in long" in words.replace("\n", " ")
    assert {entry.title for entry in pdf.outline} == {"SP1", "DA1", "BP1", "BFS1"}


@wide
def test_details_over_two_cores_are_the_same_in_the_same_order():
    every = [of(f"SP{k}", FLANGE, {"rows": 2 + k % 4}) for k in range(FEW + 2)]
    one, two = io.BytesIO(), io.BytesIO()
    assert write_pdf(sheets(every, "ANSI-D"), TITLE, one) == write_pdf(sheets(every, "ANSI-D", cores=2), TITLE, two)
    assert one.getvalue() == two.getvalue()


def test_an_svg_is_one_sheet():
    stream = io.BytesIO()
    write_svg(sheets([of("SP1", FLANGE)], "A3"), TITLE, stream)
    root = ET.fromstring(stream.getvalue())
    texts = {(t.text or "").strip() for t in root.iter("{http://www.w3.org/2000/svg}text")}
    assert {"SP1", '11-1/2"', "Elm Detailing"} <= texts
    many = [of(f"BP{k}", BASE) for k in range(4)]
    with pytest.raises(InputError, match="one sheet"):
        write_svg(sheets(many, "A4"), TITLE, io.BytesIO())
    with pytest.raises(InputError, match="nothing to draw"):
        write_pdf(sheets([], "A4"), TITLE, io.BytesIO())


def test_paper_by_its_name():
    assert paper("a3").width == 420 and paper("ansi d").name == "ANSI-D"
    with pytest.raises(InputError, match="A4, A3"):
        paper("B5")


DETAILS = [of("SP1", FLANGE), of("DA1", PAIR), of("BP1", BASE), of("BFS1", SPLICE), of("SP2", FLANGE, {"rows": 5})]


@given(
    st.lists(st.sampled_from(DETAILS), min_size=1, max_size=9),
    st.sampled_from(sorted(FORMATS)),
    st.sampled_from(["us", "si"]),
)
@settings(max_examples=12, deadline=None)
def test_nothing_on_a_sheet_is_over_another_or_over_its_frame(details, name, system):
    form, placed = FORMATS[name], []
    for number, sheet in enumerate(sheets(details, name, system), 1):
        assert sheet.number == number and sheet.blocks
        for block in sheet.blocks:
            x0, y0, x1, y1 = block.box
            assert x0 >= MARGIN and x1 <= form.width - MARGIN and y1 <= form.height - MARGIN
            assert y0 >= MARGIN + BLOCK
            for view in block.views:  # what is drawn is in its box
                (a, b, c, d), s = view.view.extent(), view.scale
                assert x0 - 0.1 <= view.at[0] + a / s and view.at[0] + c / s <= x1 + 0.1
                assert y0 - 0.1 <= view.at[1] + b / s and view.at[1] + d / s <= y1 + 0.1
            for other in sheet.blocks:
                u0, v0, u1, v1 = other.box
                assert other is block or x1 <= u0 or u1 <= x0 or y1 <= v0 or v1 <= y0
            placed.append(block.name)
    assert placed == [one.name for one in details]
