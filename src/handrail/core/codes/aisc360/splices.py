"""What splices ask besides bolts and plates: fillers J5.2, and beams with holes in a flange F13.1."""

from __future__ import annotations

from dataclasses import dataclass

from handrail.core.catalogue import Grade, Section, Steel
from handrail.core.codes.aisc360.code import Edition
from handrail.core.codes.asked import Filler
from handrail.core.quantities.lines import NULL, Trace
from handrail.core.quantities.units import INCH

THIN, THICKEST = INCH / 4, 0.75 * INCH
BRITTLE = 0.8  # Fy/Fu
EXPECTED = {
    "A36": 1.5,
    "A529-50": 1.2,
    **dict.fromkeys(("A992", "A572-50", "A572-55", "A588", "A913-50", "A913-65"), 1.1),
}
SOFTEST = 1.5  # Ry of a grade that AISC 341 does not list


@dataclass(frozen=True)
class Splices:
    """Fillers, expected strengths, flanges with holes, finished surfaces."""

    code: Edition

    def filler_factor(self, filler: Filler) -> float:
        """What a filler leaves of a bolt's shear (J5.2): 1 up to 1/4 in. or where developed, else 1 - 0.4
        (t - 1/4); nothing beyond 3/4 in., where they have to be developed."""
        thickness = filler.thickness
        if filler.developed or thickness <= THIN + 1e-6:
            return 1.0
        return max(1 - 0.4 * (thickness - THIN) / INCH, 0.0) if thickness <= THICKEST + 1e-6 else 0.0

    @property
    def thickest_filler(self) -> float:
        """That need not be developed, mm (J5.2)."""
        return THICKEST

    def bolts_beyond(self, bolts: float, filler: float, flange: float) -> float:
        """How many bolts hold a developed filler beyond the joint, of `bolts` in it: as the filler's part of filler and
        flange together (J5.2a)."""
        return bolts * filler / (filler + flange) if filler > THIN + 1e-6 else 0.0

    def expected(self, grade: Grade) -> float:
        """Ry of a grade (AISC 341 Table A3.2); that of A36 shapes where it is not listed."""
        return EXPECTED.get(grade.name, SOFTEST)

    def least_of_flange(self, steel: Steel) -> float:
        """What a flange's splice in the lateral system has to hold at least, N (AISC 341 D2.5b): 0.5 Ry Fy bf
        tf/alpha_s, Ry of Table A3.1."""
        return (
            0.5
            * self.expected(steel.grade)
            * steel.grade.Fy
            * steel.section.bf
            * steel.section.tf
            / (1.0 if self.code.lrfd else 1.5)
        )

    def flange_with_holes(self, steel: Steel, hole: float, trace: Trace = NULL) -> float:
        """Available moment of a beam whose tension flange has two holes `hole` mm wide in its width, N*mm (F13.1):
        rupture where Fu Afn < Yt Fy Afg, else the plastic moment."""
        s, Fy, Fu = steel.section, steel.grade.Fy, steel.grade.Fu
        gross, net = s.bf * s.tf, self.flange_net_area(s, hole)
        Yt = 1.0 if Fy / Fu <= BRITTLE else 1.1
        t = trace("Fu Afn", "Fu Afn", Fu * net, "F13.1", kind="force", Fu=Fu, Afn=net)
        y = trace("Yt Fy Afg", "Yt Fy Afg", Yt * Fy * gross, "F13.1", kind="force", Fy=Fy, Afg=gross)
        Mp = Fy * s.Zx
        if t >= y:
            Mn = trace("Mn", "Fy Zx: the holes do not count", Mp, "F13.1", Fy=Fy, Zx=s.Zx)
        else:
            Mn = trace("Mn", "Fu Afn/Afg Sx <= Mp", min(Fu * net / gross * s.Sx, Mp), "F13-1", Sx=s.Sx)
        return self.code.available(Mn, "flexure", trace, symbol="M")

    def flange_net_area(self, section: Section, hole: float) -> float:
        """Of a flange with two holes in its width, mm^2; `hole` as it counts (B4.3b)."""
        return max(section.bf - 2 * hole, 0.0) * section.tf

    def contact_bearing(self, Fy: float, area: float, trace: Trace = NULL) -> float:
        """Available bearing of finished surfaces, N (J7a): 1.8 Fy Apb, phi 0.75, Omega 2.00."""
        return self.code.available(trace("Rn", "1.8 Fy Apb", 1.8 * Fy * area, "J7-1", Fy=Fy, Apb=area), "bolt", trace)
