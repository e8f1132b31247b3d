"""Words on pictures: shipped fonts, lines of text, captions, and the ink they are drawn in."""

from cadrage.lettering.captions import Cue, read_captions
from cadrage.lettering.fonts import FAMILIES, Family
from cadrage.lettering.ink import Ink, Laid
from cadrage.lettering.style import Lettered
from cadrage.lettering.text import Block, set_text

__all__ = ["FAMILIES", "Block", "Cue", "Family", "Ink", "Laid", "Lettered", "read_captions", "set_text"]
