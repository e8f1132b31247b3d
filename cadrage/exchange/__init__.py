"""Open formats in and out."""

from cadrage.exchange.chart import Chart, chart_of, to_png, to_svg
from cadrage.exchange.closed_captions import closed_captions, to_srt
from cadrage.exchange.edl import to_edl

__all__ = ["Chart", "chart_of", "closed_captions", "to_edl", "to_png", "to_srt", "to_svg"]
