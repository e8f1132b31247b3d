"""A file is opened again and measured, by other means than it was made by; and the sheet that says so."""

from cadrage.inspection.inspect import Inspection, inspect_file
from cadrage.inspection.report import Line

__all__ = ["Inspection", "Line", "inspect_file"]
