"""Cadrage: footage of one shape into a frame of another, without distortion.

The rooms of the core, lowest first. A room may use those above it in this list, never those below it:

    files       the one door through which files get out
    fields      what a control for a field needs to know
    geometry    exact sizes, rectangles, placement and what a placement costs
    formats     source formats, frames to deliver and guides, as data
    pixels      planes of samples: layout, colour, resampling
    lettering   words: shipped fonts, lines of text, captions, and the ink they are drawn in
    footage     source files: probing, interpretation, decoding, looking for fields and for bars in the picture
    surrounds   what is seen where the picture is not
    finish      what is laid over the join and over all
    plan        the Plan: one framing, said completely
    rules       what is done with every clip of a source format
    treatments  a placement, a surround and a finish under a name
    compose     a plan and a moment make one finished frame
    render      a plan makes a file; the file is inspected
    exchange    charts of a frame's guides
    cli         the same job without a browser

The core imports no web framework. One convention throughout: x runs right, y runs down, pixel centres lie at
half-integers, so a raster of width w spans 0 to w.
"""

__version__ = "0.1.0"
