"""Our rows under another program's names: an output map says which of them, what each column is called there, in which
codes, units and signs; a column map turned round."""

from handrail.interchange.outputmap.language import OutputMap
from handrail.interchange.outputmap.parsing import is_output, read_output
from handrail.interchange.outputmap.turning import turned
from handrail.interchange.outputmap.writing import Made, files, made

__all__ = ["Made", "OutputMap", "files", "is_output", "made", "read_output", "turned"]
