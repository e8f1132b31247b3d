"""Words on pictures: shipped fonts, lines of text, captions, and the ink they are drawn in."""

from cadrage.lettering.captions import Cue, read_captions
from cadrage.lettering.fonts import FAMILIES, Family
from cadrage.lettering.style import Lettered
from cadrage.lettering.text import Block, set_text
from cadrage.lettering.text_layer import Laid, TextLayer

__all__ = ["FAMILIES", "Block", "Cue", "Family", "Laid", "Lettered", "TextLayer", "read_captions", "set_text"]
