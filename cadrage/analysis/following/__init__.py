"""What of a clip a window could follow: how its camera moves, who and what moves in it, and where."""
