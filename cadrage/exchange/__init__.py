"""Open formats in and out."""

from cadrage.exchange.chart import Chart, chart_of, to_png, to_svg

__all__ = ["Chart", "chart_of", "to_png", "to_svg"]
