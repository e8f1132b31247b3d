"""Cadrage: footage of one shape into a frame of another, without distortion.

The rooms of the core, lowest first. A room may use those above it in this list, never those below it:

    upgrade     what older versions stored, as this one has it; wording: identifiers in words
    values      frozen values and exact numbers
    files       the one door through which files get out
    fields      what a control for a field needs to know
    geometry    exact sizes, rectangles, placement and what a placement costs
    formats     source formats, frames to deliver and guides, as data
    pixels      planes of samples: layout, colour, resampling
    lettering   words: shipped fonts, lines of text, captions, and the layers they are drawn in
    footage     source files: probing, which file is which, interpretation, decoding
    extend      picture made beyond a clip's edges, of its own pixels first
    analysis    what is found out by looking at a clip, and where it is kept
    motion      a placement over time
    surrounds   what is seen where the picture is not
    finish      what is laid over the join and over all
    plan        the Plan: one framing, said completely
    rules       what is done with every clip of a source format
    treatments  a placement, a surround and a finish under a name
    compose     a plan and a moment make one finished frame
    analyses    every kind of analysis
    plates      making the plates that plans ask for
    output      what files can be: kinds, settings, amounts, names
    render      a plan makes a file
    inspection  a file is opened again and measured
    exchange    charts of a frame's guides
    batch       many clips into many frames
    cli         the same job without a browser

The core imports no web framework. One convention throughout: x runs right, y runs down, pixel centres lie at
half-integers, so a raster of width w spans 0 to w.
"""

__version__ = "0.1.0"
