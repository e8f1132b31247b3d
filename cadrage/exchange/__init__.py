"""Open formats in and out."""

from cadrage.exchange.chart import Chart, chart_of, to_png, to_svg
from cadrage.exchange.edl import to_edl

__all__ = ["Chart", "chart_of", "to_edl", "to_png", "to_svg"]
